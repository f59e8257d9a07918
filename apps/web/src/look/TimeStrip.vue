<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, watch } from 'vue';
import type { Observations } from '@merry-shadow/core/observe/observations';
import type { Plant } from '@merry-shadow/core/ground/plants';
import type { Snag } from '@merry-shadow/core/snags/snag';
import { useNight } from '../theme/night';
import { barOf, PLANT_ROW, PLANT_ROWS, type PlantEnd } from './plant-rows';
import { stripRows } from './strip-rows';

const props = defineProps<{
  frames: number;
  rate: number;
  frame: number;
  from: number;
  until: number;
  observations: Observations | null;
  firstObserved: number;
  /** Counted from the first observed frame. */
  plants: readonly Plant[];
  snags: readonly Snag[];
  selected: number | null;
  /** Frames with which another shot begins. */
  cuts: readonly number[];
}>();
const emit = defineEmits<{
  seek: [frame: number];
  range: [from: number, until: number];
  select: [plant: number | null];
  plants: [plants: Plant[]];
}>();
const canvas = ref<HTMLCanvasElement>();
const box = ref<HTMLDivElement>();
const width = ref(0);
const night = useNight();
const ROW = 10;
const TOP = 18;
const rows = computed(() => stripRows(props.observations));
const rowsEnd = computed(() => TOP + rows.value.length * ROW);
/** Rows of plants and snags come with a motion. */
const laid = computed(() => props.plants.length > 0 || props.snags.length > 0);
const plantRows = computed(() =>
  PLANT_ROWS.filter((row) => row.always || props.plants.some((p) => row.parts.includes(p.part))),
);
const snagTop = computed(() => rowsEnd.value + plantRows.value.length * PLANT_ROW);
const height = computed(() => (laid.value ? snagTop.value + ROW : rowsEnd.value) + 4);
const held = ref<{ plant: number; end: PlantEnd; frame: number; draft: Plant } | null>(null);
const drawn = computed(() => props.plants.map((plant, i) => (held.value?.plant === i ? held.value.draft : plant)));
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
  if (laid.value) drawLaid(context, token);
  drawCuts(context, token);
  drawRange(context, token);
}

function drawCuts(context: CanvasRenderingContext2D, token: (name: string) => string): void {
  context.strokeStyle = token('--ink');
  context.fillStyle = token('--ink');
  context.lineWidth = 1;
  context.setLineDash([3, 3]);
  for (const cut of props.cuts) {
    const x = Math.round(toX(cut)) + 0.5;
    context.beginPath();
    context.moveTo(x, TOP - 4);
    context.lineTo(x, height.value);
    context.stroke();
    context.fillText('cut', x + 3, TOP - 4);
  }
  context.setLineDash([]);
}

function drawLaid(context: CanvasRenderingContext2D, token: (name: string) => string): void {
  const x = (frame: number): number => toX(frame + props.firstObserved);
  plantRows.value.forEach((row, r) => {
    const top = rowsEnd.value + r * PLANT_ROW;
    context.fillStyle = token('--sheet-deep');
    context.fillRect(0, top, width.value, PLANT_ROW - 2);
    drawn.value.forEach((plant, i) => {
      if (!row.parts.includes(plant.part)) return;
      const { y, tall } = barOf(plant, row, top);
      const chosen = props.selected === i;
      context.fillStyle = token(`--${row.side}`);
      context.globalAlpha = chosen ? 1 : 0.62;
      context.fillRect(x(plant.from), y, Math.max(2, x(plant.until) - x(plant.from)), tall);
      context.globalAlpha = 0.25;
      const ease = x(plant.ease) - x(0);
      context.fillRect(x(plant.from) - ease, y, ease, tall);
      context.fillRect(x(plant.until), y, ease, tall);
      context.globalAlpha = 1;
      if (!chosen) return;
      context.strokeStyle = token('--ink');
      context.lineWidth = 1.5;
      context.strokeRect(x(plant.from), y - 0.5, Math.max(2, x(plant.until) - x(plant.from)), tall + 1);
    });
  });
  const y = snagTop.value;
  context.fillStyle = token('--sheet-deep');
  context.fillRect(0, y, width.value, ROW - 2);
  context.fillStyle = token('--berry');
  for (const { from, until } of props.snags) {
    context.globalAlpha = 0.4;
    context.fillRect(x(from), y + 2, Math.max(2, x(until) - x(from)), ROW - 6);
    context.globalAlpha = 1;
    context.beginPath();
    context.moveTo(x(from), y);
    context.lineTo(x(from) + 4, y + (ROW - 2) / 2);
    context.lineTo(x(from), y + ROW - 2);
    context.lineTo(x(from) - 4, y + (ROW - 2) / 2);
    context.fill();
  }
}

/** Which plant lies under a place of the strip, and whether it is one of its ends. */
function plantAt(px: number, py: number): { plant: number; end: PlantEnd } | null {
  const row = plantRows.value[Math.floor((py - rowsEnd.value) / PLANT_ROW)];
  if (!row || py < rowsEnd.value) return null;
  const top = rowsEnd.value + plantRows.value.indexOf(row) * PLANT_ROW;
  const x = (frame: number): number => toX(frame + props.firstObserved);
  const found = props.plants
    .map((plant, i) => ({ plant, i, ...barOf(plant, row, top) }))
    .filter(({ plant, y, tall }) => row.parts.includes(plant.part) && py >= y - 1 && py < y + tall + 1)
    .filter(({ plant }) => px > x(plant.from) - 5 && px < x(plant.until) + 5)
    .sort((a, b) => Number(b.i === props.selected) - Number(a.i === props.selected))[0];
  if (!found) return null;
  const [start, end] = [x(found.plant.from), x(found.plant.until)];
  const grip = Math.min(6, Math.max(2, (end - start) / 3));
  return { plant: found.i, end: px < start + grip ? 'from' : px > end - grip ? 'until' : 'whole' };
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
  const plant = plantAt(x, y);
  if (plant) {
    const frame = toFrame(x);
    emit('select', plant.plant);
    emit('seek', frame);
    held.value = { ...plant, frame, draft: { ...props.plants[plant.plant] } };
    canvas.value?.setPointerCapture(event.pointerId);
    return;
  }
  if (y >= rowsEnd.value) emit('select', null);
  const grip = y > TOP - 6 && y < TOP + 10;
  if (grip && Math.abs(x - toX(from)) < 9) dragging.value = 'from';
  else if (grip && Math.abs(x - toX(until)) < 9) dragging.value = 'until';
  else dragging.value = 'head';
  canvas.value?.setPointerCapture(event.pointerId);
  drag(event);
}

function drag(event: PointerEvent): void {
  if (held.value) return dragPlant(event);
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

function dragPlant(event: PointerEvent): void {
  if (!held.value) return;
  const { plant, end, frame } = held.value;
  const by = toFrame(local(event)) - frame;
  const { from, until } = props.plants[plant];
  const most = props.observations?.frames ?? props.frames;
  const within = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value));
  const draft = { ...props.plants[plant] };
  if (end === 'whole') {
    const shift = within(by, -from, most - until);
    Object.assign(draft, { from: from + shift, until: until + shift });
  } else if (end === 'from') draft.from = within(from + by, 0, until - 1);
  else draft.until = within(until + by, from + 1, most);
  held.value = { ...held.value, draft };
}

function release(): void {
  if (held.value) {
    const { plant, draft: moved } = held.value;
    const old = props.plants[plant];
    held.value = null;
    if (moved.from !== old.from || moved.until !== old.until)
      emit(
        'plants',
        props.plants.map((item, i) => (i === plant ? moved : item)),
      );
    return;
  }
  if (draft.value) emit('range', ...draft.value);
  dragging.value = null;
  draft.value = null;
}

const observer = new ResizeObserver(([entry]) => (width.value = entry.contentRect.width));
onMounted(() => box.value && observer.observe(box.value));
onUnmounted(() => observer.disconnect());
watch(
  () => [
    props.frame,
    drawn.value,
    props.snags,
    props.cuts,
    props.selected,
    props.observations,
    props.frames,
    range.value,
    width.value,
    night.night,
  ],
  draw,
  {
    flush: 'post',
  },
);
</script>

<template>
  <div class="strip">
    <div class="titles" aria-hidden="true" :style="{ paddingTop: `${TOP - 1}px` }">
      <span v-for="row in rows" :key="row.title" :style="{ height: `${ROW}px`, color: `var(--${row.side})` }">{{
        row.title
      }}</span>
      <template v-if="laid">
        <span
          v-for="row in plantRows"
          :key="row.title"
          class="planted"
          :style="{ height: `${PLANT_ROW}px`, color: `var(--${row.side})` }"
          >{{ row.title }}</span
        >
        <span :style="{ height: `${ROW}px`, color: 'var(--berry)' }">snags</span>
      </template>
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

.planted {
  line-height: 14px;
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
