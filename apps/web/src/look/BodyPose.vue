<script setup lang="ts">
import { PhPersonArmsSpread, PhX } from '@phosphor-icons/vue';
import { computed } from 'vue';
import type { CalibrationPose } from '@merry-shadow/core/solve/body/calibration-pose';

/** Which pose shows the body's proportions: the one that was found, or a frame that a person picks. Frames of the clip. */
const props = defineProps<{
  pose: CalibrationPose | null;
  picked: number | null;
  firstObserved: number;
  /** The frame that is shown. */
  frame: number;
  /** Of the solved take; 0 while there is none. */
  frames: number;
}>();
/** A frame that was not captured shows nothing. */
const outside = computed(() => props.frame < props.firstObserved || props.frame >= props.firstObserved + props.frames);
const emit = defineEmits<{ pick: [frame: number | null]; seek: [frame: number] }>();
</script>

<template>
  <div class="pose">
    <button
      v-if="picked !== null"
      type="button"
      class="link number"
      title="Show this frame"
      @click="emit('seek', picked)"
    >
      Proportions from frame {{ picked }}
    </button>
    <button
      v-else-if="pose"
      type="button"
      class="link number"
      title="Show this pose"
      @click="emit('seek', pose.from + firstObserved)"
    >
      {{ pose.kind }}-pose found on frames {{ pose.from + firstObserved }}–{{ pose.until - 1 + firstObserved }}
    </button>
    <span v-else class="quiet">{{ frames > 0 ? 'No T- or A-pose found' : 'Proportions from the whole take' }}</span>
    <button
      v-if="picked !== null"
      type="button"
      class="bare"
      aria-label="Find the pose again"
      title="Find the pose again"
      @click="emit('pick', null)"
    >
      <PhX :size="14" />
    </button>
  </div>
  <button type="button" class="wide" :disabled="picked === frame || outside" @click="emit('pick', frame)">
    <PhPersonArmsSpread :size="18" />Measure on this frame
  </button>
</template>

<style scoped>
.pose {
  align-items: center;
  display: flex;
  gap: 6px;
  justify-content: space-between;
}

.link {
  background: none;
  border: 0;
  color: var(--ink);
  cursor: pointer;
  font: inherit;
  padding: 2px 0;
  text-align: left;
  text-decoration: underline dotted;
}
</style>
