<script setup lang="ts">
import { PhX } from '@phosphor-icons/vue';
import { computed, type Component } from 'vue';
import { useOpenTake } from '../take/open-take';

/** A frame of the clip that a person picks for something, or what was found instead. */
const props = defineProps<{
  picked: number | null;
  /** What stands beside the number of a picked frame. */
  words: string;
  /** What was found, and a frame that shows it; null where nothing was. */
  found: { words: string; frame: number } | null;
  /** What is said where nothing was found. */
  nothing: string;
  /** What the button says that picks the frame shown now, and its icon. */
  button: string;
  icon: Component;
  again: string;
}>();
const emit = defineEmits<{ pick: [frame: number | null] }>();
const { solved, player, frame, goTo } = useOpenTake();
/** A frame that was not tracked shows nothing. */
const outside = computed(() => frame.value < 0 || frame.value >= (solved.value?.motion.frames ?? 0));
const pick = (wanted: number | null): void => emit('pick', wanted);
</script>

<template>
  <div class="pose">
    <el-button v-if="picked !== null" link class="number" title="Show this frame" @click="goTo(picked)"
      >{{ props.words }} {{ picked }}</el-button
    >
    <el-button v-else-if="found" link class="number" title="Show it" @click="goTo(found.frame)">{{
      found.words
    }}</el-button>
    <span v-else class="quiet">{{ nothing }}</span>
    <el-button v-if="picked !== null" text size="small" :aria-label="again" :title="again" @click="pick(null)"
      ><PhX :size="14"
    /></el-button>
  </div>
  <el-button class="wide" :disabled="picked === player.shown.value || outside" @click="pick(player.shown.value)"
    ><component :is="icon" :size="18" />{{ button }}</el-button
  >
</template>

<style scoped>
.pose {
  align-items: center;
  display: flex;
  gap: 6px;
  justify-content: space-between;
}
</style>
