<script setup lang="ts">
import { PhWebcam } from '@phosphor-icons/vue';
import { useResizeObserver } from '@vueuse/core';
import { ref, watch } from 'vue';
import { isSeen } from '@merry-shadow/core/observe/body';
import { drawMarks } from '../look/draw-marks';
import { useLiveCamera } from './live-camera';
import { useTitle } from '../shell/title';

const camera = useLiveCamera();
const video = ref<HTMLVideoElement>();
const canvas = ref<HTMLCanvasElement>();
const box = ref<HTMLDivElement>();

function draw(): void {
  const element = canvas.value;
  const context = element?.getContext('2d');
  const seen = camera.seen.value;
  if (!element || !context || !box.value) return;
  if (!seen) return context.clearRect(0, 0, element.width, element.height);
  const scale = Math.min(box.value.clientWidth / seen.picture.width, box.value.clientHeight / seen.picture.height);
  const [width, height] = [seen.picture.width * scale, seen.picture.height * scale];
  element.style.width = `${width}px`;
  element.style.height = `${height}px`;
  const density = window.devicePixelRatio || 1;
  element.width = width * density;
  element.height = height * density;
  context.setTransform(density, 0, 0, density, 0, 0);
  context.drawImage(seen.picture, 0, 0, width, height);
  drawMarks(context, seen.observations, 0, scale, {
    left: '#8a4fd0',
    right: '#0e9c9c',
    middle: '#2a211d',
    halo: '#fff7e6',
  });
}
watch(camera.seen, draw, { flush: 'post' });
useResizeObserver(box, draw);
const begin = (): void => void (video.value && camera.start(video.value));
useTitle('Live');
</script>

<template>
  <section class="room">
    <div ref="box" class="picture">
      <video ref="video" playsinline muted></video>
      <canvas ref="canvas" aria-hidden="true"></canvas>
      <div v-if="camera.state.value === 'off'" class="invite">
        <PhWebcam :size="52" weight="duotone" />
        <h1>See yourself as a skeleton</h1>
        <p>Your camera’s pictures stay in this browser. Stand back until your whole body is in the picture.</p>
        <el-button type="primary" size="large" @click="begin">Start the camera</el-button>
        <p v-if="camera.problem.value" class="problem" role="alert">{{ camera.problem.value }}</p>
      </div>
      <p v-else-if="camera.state.value !== 'on'" class="note" role="status">
        {{ camera.state.value === 'asking' ? 'Waiting for leave to use the camera' : 'Loading the tracker' }}
      </p>
    </div>
    <div v-if="camera.state.value === 'on'" class="bar">
      <span class="number" data-testid="live-rate"
        ><strong>{{ camera.rate.value.toFixed(1) }}</strong> frames/s tracked</span
      >
      <span class="quiet number">{{ camera.took.value.toFixed(0) }} ms for a frame on this computer</span>
      <span role="status" data-testid="live-seen">{{
        camera.seen.value && isSeen(camera.seen.value.observations, 0) ? 'Performer seen' : 'Nobody seen'
      }}</span>
      <span class="space"></span>
      <el-button @click="camera.stop()">Stop the camera</el-button>
    </div>
  </section>
</template>

<style scoped>
.room {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  height: 100%;
}

.picture {
  background: var(--screen);
  display: grid;
  min-height: 0;
  overflow: hidden;
  place-items: center;
  position: relative;
}

/* Pictures are shown together with their marks; the camera's own view stays out of sight. */
video {
  height: 1px;
  opacity: 0;
  position: absolute;
  width: 1px;
}

canvas {
  position: relative;
}

.invite {
  color: #f3e8d6;
  max-width: 34em;
  padding: 20px;
  position: absolute;
  text-align: center;
}

.invite p {
  color: #c3b3a0;
}

.invite .problem {
  color: #ffb3c6;
}

.note {
  background: var(--sheet);
  border-radius: 999px;
  bottom: 16px;
  padding: 5px 16px;
  position: absolute;
}

.bar {
  align-items: center;
  background: var(--sheet);
  border-top: 1px solid var(--edge);
  display: flex;
  gap: 24px;
  padding: 10px 20px;
}

.space {
  flex: 1;
}
</style>
