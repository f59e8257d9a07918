<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core';
import { onMounted, onUnmounted, ref, watch } from 'vue';
import { LivePose } from '@merry-shadow/core/live/live-pose';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { NO_3D, StageView } from '../look/stage/stage-view';
import { useNight } from '../theme/night';

/** The figure, moving as the performer does, as in a mirror. */
const props = defineProps<{ observations: Observations | null }>();
const box = ref<HTMLDivElement>();
const canvas = ref<HTMLCanvasElement>();
const problem = ref('');
const night = useNight();
let stage: StageView | null = null;
const pose = new LivePose();
let last = 0;

function show(): void {
  if (!stage || !props.observations) return;
  const now = performance.now();
  const motion = pose.next(props.observations, (now - last) / 1000);
  last = now;
  if (motion) stage.setMotion(motion, null);
}

onMounted(() => {
  if (!canvas.value || !box.value) return;
  try {
    stage = new StageView(canvas.value);
    stage.resize(box.value.clientWidth, box.value.clientHeight);
    show();
  } catch {
    problem.value = NO_3D;
  }
});
onUnmounted(() => stage?.dispose());
useResizeObserver(box, ([{ contentRect }]) => stage?.resize(contentRect.width, contentRect.height));
watch(() => props.observations, show);
watch(
  () => night.night,
  () => stage?.paint(),
  { flush: 'post' },
);
</script>

<template>
  <div ref="box" class="figure" data-testid="live-figure">
    <p v-if="problem" role="alert">{{ problem }}</p>
    <canvas v-else ref="canvas" role="img" aria-label="The figure moves as you do"></canvas>
  </div>
</template>

<style scoped>
.figure {
  background: var(--stage-ground);
  border: 2px solid #fff7e6;
  border-radius: 10px;
  bottom: 14px;
  height: 52%;
  overflow: hidden;
  position: absolute;
  right: 14px;
  width: 30%;
}

/* As in a mirror, like the picture beside it. */
canvas {
  display: block;
  height: 100%;
  pointer-events: none;
  transform: scaleX(-1);
  width: 100%;
}

p {
  padding: 10px;
}
</style>
