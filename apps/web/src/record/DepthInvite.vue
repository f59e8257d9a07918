<script setup lang="ts">
import { PhCube } from '@phosphor-icons/vue';
import { useIntervalFn } from '@vueuse/core';
import { ref } from 'vue';
import type { DepthCameraList, DepthCameraView } from '@merry-shadow/contracts/depth-camera';
import { fetchDepthCameras } from '../api/client';
import { depthCameraWords } from './depth-camera';

/** The depth cameras that bridges bring now, to choose one. */
defineProps<{ problem: string }>();
const emit = defineEmits<{ choose: [camera: DepthCameraView] }>();
const list = ref<DepthCameraList | null>(null);
/** Bridges come and go: it is looked again so often, milliseconds. */
const LOOK_MS = 1500;
useIntervalFn(
  async () => {
    list.value = await fetchDepthCameras().catch(() => list.value);
  },
  LOOK_MS,
  { immediateCallback: true },
);
</script>

<template>
  <PhCube :size="52" weight="duotone" />
  <h1>Record with a depth camera</h1>
  <p>It measures how far away you are, so that nothing has to be guessed. Everything stays on this computer.</p>
  <ul v-if="list && list.cameras.length > 0">
    <li v-for="camera in list.cameras" :key="camera.id">
      <el-button type="primary" size="large" @click="emit('choose', camera)">Start {{ camera.name }}</el-button>
      <span class="number">{{ depthCameraWords(camera) }}</span>
    </li>
  </ul>
  <p v-else-if="list && list.port !== null" role="status" data-testid="no-depth-camera">
    None is connected. Start the bridge of yours; it connects to port {{ list.port }} on this computer by itself.
    <code>./run depth-camera</code> starts a simulated one.
  </p>
  <p v-else-if="list" class="problem" role="alert">
    Depth cameras can't connect: another program uses the port. The log of the start command names it.
  </p>
  <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
</template>

<style scoped>
ul {
  display: grid;
  gap: 12px;
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  display: grid;
  gap: 4px;
  justify-items: center;
}

p,
span {
  color: #c3b3a0;
}

code {
  color: #f3e8d6;
}

.problem {
  color: #ffb3c6;
}
</style>
