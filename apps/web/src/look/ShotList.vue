<script setup lang="ts">
import { computed } from 'vue';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import { plural } from '../shell/words';

const props = defineProps<{
  solved: SolvedTake;
  /** Counted from the capture's first frame. */
  frame: number;
  firstObserved: number;
  /** Whether a person has said where the cuts are. */
  said: boolean;
}>();
const emit = defineEmits<{ seek: [frame: number]; change: [cuts: number[] | null] }>();

/** Frames of the clip with which another shot begins. */
const cuts = computed(() => props.solved.shots.slice(1).map(({ from }) => from + props.firstObserved));
const here = computed(() => props.frame + props.firstObserved);
const cutHere = computed(() => cuts.value.includes(here.value));
const canCut = computed(() => props.frame > 0 && props.frame < props.solved.motion.frames);
const words = computed(() =>
  cuts.value.length === 0
    ? 'One shot, without a cut.'
    : `${cuts.value.length + 1} shots, each with a camera and a floor of its own; the motion goes on over ${plural(cuts.value.length, 'cut')}.`,
);

function toggle(): void {
  const others = cuts.value.filter((frame) => frame !== here.value);
  emit('change', cutHere.value ? others : [...others, here.value].sort((a, b) => a - b));
}
</script>

<template>
  <h2>Shots</h2>
  <p class="words quiet">{{ words }}</p>
  <p class="number">
    <el-button v-for="cut in cuts" :key="cut" size="small" @click="emit('seek', cut)">frame {{ cut }}</el-button>
    <el-button size="small" :disabled="!canCut" @click="toggle">{{
      cutHere ? 'No cut at this frame' : 'A cut at this frame'
    }}</el-button>
    <el-button v-if="said" size="small" @click="emit('change', null)">The cuts that were found</el-button>
  </p>
</template>

<style scoped>
h2 {
  font-size: 16px;
  margin-top: 12px;
}

p {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 0;
}

.words {
  font-size: 13px;
}

.el-button + .el-button {
  margin-left: 0;
}
</style>
