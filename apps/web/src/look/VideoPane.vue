<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, watch } from 'vue';
import type { SeenPeople, SeenPerson } from '@merry-shadow/contracts/clip';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { drawFace, drawHands, drawMarks } from './draw-marks';
import LevelPicker from './LevelPicker.vue';
import PeoplePicker from './PeoplePicker.vue';

const props = defineProps<{
  source: string;
  width: number;
  height: number;
  frame: number;
  observations: Observations | null;
  firstObserved: number;
  marks: boolean;
  people: SeenPeople | null;
  /** The lens of a picture on which the camera's pitch is measured, degrees; null while it is not. */
  measured: number | null;
}>();
const emit = defineEmits<{ pick: [person: SeenPerson]; each: []; close: []; level: [degrees: number] }>();
const video = ref<HTMLVideoElement>();
const canvas = ref<HTMLCanvasElement>();
const box = ref<HTMLDivElement>();
const room = ref({ width: 0, height: 0 });
/** Where tools that lie over the picture put what would cover it. */
const below = ref<HTMLDivElement | null>(null);
const problem = ref('');
defineExpose({ video });

const fitted = computed(() => {
  const scale = Math.min(room.value.width / props.width, room.value.height / props.height) || 0;
  return { width: Math.floor(props.width * scale), height: Math.floor(props.height * scale) };
});

function draw(): void {
  const element = canvas.value;
  const context = element?.getContext('2d');
  if (!element || !context || fitted.value.width === 0) return;
  const density = window.devicePixelRatio || 1;
  element.width = fitted.value.width * density;
  element.height = fitted.value.height * density;
  context.setTransform(density, 0, 0, density, 0, 0);
  context.clearRect(0, 0, element.width, element.height);
  // Marks keep the day's colours: footage does not change at night.
  if (props.marks && props.observations) {
    const scale = fitted.value.width / props.observations.width;
    const colours = { left: '#8a4fd0', right: '#0e9c9c', middle: '#2a211d', halo: '#fff7e6' };
    const frame = props.frame - props.firstObserved;
    drawFace(context, props.observations, frame, scale, colours);
    drawMarks(context, props.observations, frame, scale, colours);
    drawHands(context, props.observations, frame, scale, colours);
  }
}

const observer = new ResizeObserver(
  ([entry]) => (room.value = { width: entry.contentRect.width, height: entry.contentRect.height }),
);
onMounted(() => box.value && observer.observe(box.value));
onUnmounted(() => observer.disconnect());
watch(() => [props.frame, props.observations, props.marks, fitted.value], draw, { flush: 'post', deep: false });
</script>

<template>
  <div class="pane" @keydown.esc.stop="emit('close')">
    <div ref="box" class="box">
      <div class="picture" :style="{ width: `${fitted.width}px`, height: `${fitted.height}px` }">
        <video
          ref="video"
          :src="source"
          preload="auto"
          playsinline
          @error="problem = 'The video can\'t be shown.'"
        ></video>
        <canvas ref="canvas" aria-hidden="true"></canvas>
        <PeoplePicker
          v-if="people"
          :seen="people"
          :scale="fitted.width / people.width"
          :video="video"
          @pick="(person) => emit('pick', person)"
          @each="emit('each')"
          @close="emit('close')"
        />
        <LevelPicker
          v-if="measured !== null"
          :width="width"
          :height="height"
          :scale="fitted.width / width"
          :field-of-view="measured"
          :below="below"
          @use="(degrees) => emit('level', degrees)"
          @close="emit('close')"
        />
      </div>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    </div>
    <div ref="below"></div>
  </div>
</template>

<style scoped>
.pane {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  height: 100%;
}

.box {
  background: var(--screen);
  display: grid;
  overflow: hidden;
  place-items: center;
  position: relative;
}

.picture {
  position: relative;
}

video,
canvas {
  height: 100%;
  inset: 0;
  position: absolute;
  width: 100%;
}

.problem {
  color: #ffd9e1;
  position: absolute;
}
</style>
