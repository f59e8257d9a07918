<script setup lang="ts">
import { computed } from 'vue';
import { plural } from '../shell/words';
import { useOpenTake } from '../take/open-take';

/** The shots of a take: where one camera gives way to another. */
const { solved, take, frame: shown, player, cuts, set, goTo } = useOpenTake();
/** Whether a person has said where the cuts are. */
const said = computed(() => take.value?.settings.cuts !== null);
const frames = computed(() => solved.value?.motion.frames ?? 0);
const here = player.shown;
const cutHere = computed(() => cuts.value.includes(here.value));
const canCut = computed(() => shown.value > 0 && shown.value < frames.value);
const words = computed(() =>
  cuts.value.length === 0
    ? 'One shot, without a cut.'
    : `${cuts.value.length + 1} shots, each with a camera and a floor of its own; the motion goes on over ${plural(cuts.value.length, 'cut')}.`,
);

function toggle(): void {
  const others = cuts.value.filter((frame) => frame !== here.value);
  set('set cuts', { cuts: cutHere.value ? others : [...others, here.value].sort((a, b) => a - b) });
}
</script>

<template>
  <h2>Shots</h2>
  <p class="hint quiet">{{ words }}</p>
  <p class="number">
    <el-button v-for="cut in cuts" :key="cut" size="small" @click="goTo(cut)">frame {{ cut }}</el-button>
    <el-button size="small" :disabled="!canCut" @click="toggle">{{
      cutHere ? 'No cut at this frame' : 'A cut at this frame'
    }}</el-button>
    <el-button v-if="said" size="small" @click="set('take the found cuts', { cuts: null })"
      >The cuts that were found</el-button
    >
  </p>
</template>

<style scoped>
p {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 0;
}

.el-button + .el-button {
  margin-left: 0;
}
</style>
