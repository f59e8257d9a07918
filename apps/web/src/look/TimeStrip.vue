<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, watch } from 'vue';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { useNight } from '../theme/night';
import { stripRows } from './strip-rows';

const props = defineProps<{
  frames: number;
  rate: number;
  frame: number;
  from: number;
  until: number;
  observations: Observations | null;
  firstObserved: number;
}>();
const emit = defineEmits<{ seek: [frame: number]; range: [from: number, until: number] }>();
const canvas = ref<HTMLCanvasElement>();
const box = ref<HTMLDivElement>();
const width = ref(0);
const night = useNight();
const ROW = 10;
const TOP = 18;
const rows = computed(() => stripRows(props.observations));
const height = computed(() => TOP + rows.value.length * ROW + 4);
const dragging = ref<'head' | 'from' | 'until' | null>(null);
const draft = ref<[number, number] | null>(null);
const range = computed(() => draft.value ?? [props.from, props.until]);

const toX = (frame: number): number => (frame / Math.max(1, props.frames)) * width.value;
const toFrame = (x: number): number =>
  Math.min(props.frames - 1, Math.max(0, Math.floor((x / width.value) * props.frames)));

function draw(): void {
  const element = canvas.value;
  const context = element?.getContext('2d');
  if (!element || !context || width.value < 10) return;
  const density = window.devicePixelRatio || 1;
  element.width = width.value * density;
  element.height = height.value * density;
  context.setTransform(density, 0, 0, density, 0, 0);
  const style = getComputedStyle(document.documentElement);
  const token = (name: string): string => style.getPropertyValue(name).trim();
  context.clearRect(0, 0, width.value, height.value);
  context.font = '11px "Source Sans 3 Variable", sans-serif';
  drawSeconds(context, token);
  const { observations } = props;
  rows.value.forEach((row, r) => {
    const y = TOP + r * ROW;
    context.fillStyle = token('--sheet-deep');
    context.fillRect(0, y, width.value, ROW - 2);
    if (!observations) return;
    const tone = token(`--${row.side}`);
    const step = Math.max(1, Math.floor(props.frames / width.value));
    for (let f = 0; f < observations.frames; f += step) {
      let sure = 2;
      for (let k = f; k < Math.min(observations.frames, f + step); k++)
        sure = Math.min(sure, row.sureness(observations, k));
      const x = toX(f + props.firstObserved);
      const w = Math.max(1, toX(f + step + props.firstObserved) - x);
      context.globalAlpha = 1;
      context.fillStyle = sure < 0 ? token('--berry') : token('--sheet');
      context.fillRect(x, y, w + 0.3, ROW - 2);
      if (sure < 0) continue;
      // What is unsure is dark.
      context.globalAlpha = Math.min(1, Math.max(0, (0.97 - sure) * 1.25));
      context.fillStyle = tone;
      context.fillRect(x, y, w + 0.3, ROW - 2);
    }
    context.globalAlpha = 1;
  });
  drawRange(context, token);
}

function drawSeconds(context: CanvasRenderingContext2D, token: (name: string) => string): void {
  const seconds = props.frames / props.rate;
  const every = [1, 2, 5, 10, 30, 60, 300].find((value) => (width.value / seconds) * value > 52) ?? 600;
  context.fillStyle = token('--ink-faint');
  context.textAlign = 'left';
  for (let s = 0; s < seconds; s += every) {
    const x = toX(s * props.rate);
    context.fillRect(x, 0, 1, 5);
    context.fillText(`${s} s`, x + 4, 11);
  }
}

function drawRange(context: CanvasRenderingContext2D, token: (name: string) => string): void {
  const [from, until] = range.value;
  context.fillStyle = token('--paper');
  context.globalAlpha = 0.72;
  context.fillRect(0, TOP, toX(from), height.value);
  context.fillRect(toX(until), TOP, width.value, height.value);
  context.globalAlpha = 1;
  context.fillStyle = token('--ink');
  for (const [frame, way] of [
    [from, 1],
    [until, -1],
  ] as const) {
    const x = Math.min(width.value - 1, Math.max(1, toX(frame)));
    context.fillRect(x - 1, TOP - 4, 2, height.value);
    context.beginPath();
    context.moveTo(x, TOP - 4);
    context.lineTo(x + way * 8, TOP - 4);
    context.lineTo(x, TOP + 6);
    context.fill();
  }
  const x = toX(props.frame + 0.5);
  context.fillStyle = token('--amber');
  context.fillRect(x - 1, 0, 2, height.value);
  context.beginPath();
  context.arc(x, 5, 5, 0, 2 * Math.PI);
  context.fill();
}

function local(event: PointerEvent): number {
  return event.clientX - (canvas.value?.getBoundingClientRect().left ?? 0);
}

function press(event: PointerEvent): void {
  if (event.button !== 0) return;
  const x = local(event);
  const y = event.clientY - (canvas.value?.getBoundingClientRect().top ?? 0);
  const [from, until] = range.value;
  const grip = y > TOP - 6 && y < TOP + 10;
  if (grip && Math.abs(x - toX(from)) < 9) dragging.value = 'from';
  else if (grip && Math.abs(x - toX(until)) < 9) dragging.value = 'until';
  else dragging.value = 'head';
  canvas.value?.setPointerCapture(event.pointerId);
  drag(event);
}

function drag(event: PointerEvent): void {
  if (!dragging.value) return;
  const frame = toFrame(local(event));
  if (dragging.value === 'head') emit('seek', frame);
  else {
    const [from, until] = range.value;
    draft.value =
      dragging.value === 'from'
        ? [Math.min(frame, until - 1), until]
        : [from, Math.max(from + 1, Math.min(props.frames, frame + 1))];
    emit('seek', dragging.value === 'from' ? draft.value[0] : draft.value[1] - 1);
  }
}

function release(): void {
  if (draft.value) emit('range', ...draft.value);
  dragging.value = null;
  draft.value = null;
}

const observer = new ResizeObserver(([entry]) => (width.value = entry.contentRect.width));
onMounted(() => box.value && observer.observe(box.value));
onUnmounted(() => observer.disconnect());
watch(() => [props.frame, props.observations, props.frames, range.value, width.value, night.night], draw, {
  flush: 'post',
});
</script>

<template>
  <div class="strip">
    <div class="titles" aria-hidden="true" :style="{ paddingTop: `${TOP - 1}px` }">
      <span v-for="row in rows" :key="row.title" :style="{ height: `${ROW}px`, color: `var(--${row.side})` }">{{
        row.title
      }}</span>
    </div>
    <div ref="box" class="track" :style="{ height: `${height}px` }">
      <canvas
        ref="canvas"
        tabindex="-1"
        role="slider"
        aria-label="Time"
        :aria-valuemin="0"
        :aria-valuemax="frames - 1"
        :aria-valuenow="frame"
        :aria-valuetext="`frame ${frame}`"
        data-testid="strip"
        @pointerdown="press"
        @pointermove="drag"
        @pointerup="release"
        @pointercancel="release"
      ></canvas>
    </div>
  </div>
</template>

<style scoped>
.strip {
  display: grid;
  gap: 10px;
  grid-template-columns: 62px minmax(0, 1fr);
}

.titles {
  display: flex;
  flex-direction: column;
  font-size: 11px;
  line-height: 10px;
  text-align: right;
}

.track {
  position: relative;
}

canvas {
  cursor: pointer;
  height: 100%;
  inset: 0;
  position: absolute;
  touch-action: none;
  width: 100%;
}
</style>
