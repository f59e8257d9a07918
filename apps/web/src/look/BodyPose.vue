<script setup lang="ts">
import { PhPersonArmsSpread, PhX } from '@phosphor-icons/vue';
import { computed } from 'vue';
import { useOpenTake } from '../take/open-take';

/** Which pose shows the body's proportions: the one that was found, or a frame that a person picks. Frames of the clip. */
const { take, solved, player, frame, firstObserved, set, goTo } = useOpenTake();
const picked = computed(() => take.value?.settings.calibration ?? null);
const pose = computed(() => solved.value?.body.pose ?? null);
const frames = computed(() => solved.value?.motion.frames ?? 0);
/** A frame that was not tracked shows nothing. */
const outside = computed(() => frame.value < 0 || frame.value >= frames.value);
const pick = (calibration: number | null): void => set('measure the body', { calibration });
</script>

<template>
  <div class="pose">
    <el-button v-if="picked !== null" link class="number" title="Show this frame" @click="goTo(picked)"
      >Proportions from frame {{ picked }}</el-button
    >
    <el-button v-else-if="pose" link class="number" title="Show this pose" @click="goTo(pose.from + firstObserved)"
      >{{ pose.kind }}-pose found on frames {{ pose.from + firstObserved }}–{{
        pose.until - 1 + firstObserved
      }}</el-button
    >
    <span v-else class="quiet">{{ frames > 0 ? 'No T- or A-pose found' : 'Proportions from the whole take' }}</span>
    <el-button
      v-if="picked !== null"
      text
      size="small"
      aria-label="Find the pose again"
      title="Find the pose again"
      @click="pick(null)"
      ><PhX :size="14"
    /></el-button>
  </div>
  <el-button class="wide" :disabled="picked === player.shown.value || outside" @click="pick(player.shown.value)"
    ><PhPersonArmsSpread :size="18" />Measure on this frame</el-button
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
