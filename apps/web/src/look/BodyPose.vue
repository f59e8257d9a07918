<script setup lang="ts">
import { PhPersonArmsSpread } from '@phosphor-icons/vue';
import { computed } from 'vue';
import { useOpenTake } from '../take/open-take';
import PickedFrame from './PickedFrame.vue';

/** Which pose shows the body's proportions: the one that was found, or a frame that a person picks. Frames of the clip. */
const { take, solved, firstObserved, set } = useOpenTake();
const found = computed(() => {
  const pose = solved.value?.body.pose;
  if (!pose) return null;
  const [from, last] = [pose.from, pose.until - 1].map((frame) => frame + firstObserved.value);
  return { words: `${pose.kind}-pose found on frames ${from}–${last}`, frame: from };
});
</script>

<template>
  <PickedFrame
    v-if="take"
    :picked="take.settings.calibration"
    words="Proportions from frame"
    :found="found"
    :nothing="solved ? 'No T- or A-pose found' : 'Proportions from the whole take'"
    button="Measure on this frame"
    :icon="PhPersonArmsSpread"
    again="Find the pose again"
    @pick="(calibration) => set('measure the body', { calibration })"
  />
</template>
