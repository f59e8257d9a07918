<script setup lang="ts">
import { ref, watch } from 'vue';
import type { DepthMap } from '@merry-shadow/tracker/depth/sample-depth';

/** What a depth camera sees now, as in a mirror: near is light, far is dark, and what is not told stays empty. */
const props = defineProps<{ map: DepthMap }>();
const canvas = ref<HTMLCanvasElement>();
/** What is nearer and what is farther is not told apart, millimetres. */
const NEAR = 800;
const FAR = 5500;
const LIGHT = [255, 236, 200] as const;
const DARK = [62, 44, 36] as const;

function draw(): void {
  const { width, height, data } = props.map;
  const context = canvas.value?.getContext('2d');
  if (!canvas.value || !context) return;
  canvas.value.width = width;
  canvas.value.height = height;
  const image = context.createImageData(width, height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const told = data[y * width + x];
      if (told === 0) continue;
      const far = Math.min(1, Math.max(0, (told - NEAR) / (FAR - NEAR)));
      const at = (y * width + width - 1 - x) * 4;
      for (let c = 0; c < 3; c++) image.data[at + c] = LIGHT[c] + (DARK[c] - LIGHT[c]) * far;
      image.data[at + 3] = 255;
    }
  context.putImageData(image, 0, 0);
}
watch(() => props.map, draw, { flush: 'post', immediate: true });
</script>

<template>
  <canvas ref="canvas" role="img" aria-label="Depth: near is light, far is dark"></canvas>
</template>

<style scoped>
canvas {
  background: #14100e;
  border: 2px solid #fff7e6;
  border-radius: 10px;
  bottom: 14px;
  left: 14px;
  max-height: 34%;
  max-width: 26%;
  position: absolute;
}
</style>
