<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { withPlant, type HeldPlant } from '@merry-shadow/core/edits/plants-of';
import type { TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { useOpenTake } from '../../take/open-take';
import { useNight } from '../../theme/night';
import { drawStrip } from './draw-strip';
import { PLANT_ROW, type PlantEnd } from './plant-rows';
import { draggedPlant, plantAt, ROW, stripLayout, TOP } from './strip-layout';

/** Time from left to right: what was seen, plants, passes and snags. Plants and the in and out point are dragged here. */
const open = useOpenTake();
const { take, facts, player, observations, firstObserved, plants, selected, cuts, time, work, evaluation } = open;
const canvas = ref<HTMLCanvasElement>();
const box = ref<HTMLDivElement>();
const night = useNight();
const frames = computed(() => facts.value?.frames ?? 1);

/** The plant that is being dragged, where the hand took it, and as it is now. */
const held = ref<{ plant: HeldPlant; end: PlantEnd; frame: number; draft: HeldPlant } | null>(null);
const dragging = ref<'head' | 'from' | 'until' | 'view' | null>(null);
const draft = ref<[number, number] | null>(null);
const range = computed<[number, number]>(
  () => draft.value ?? [take.value?.fromFrame ?? 0, take.value?.untilFrame ?? 1],
);
const content = computed(() => ({
  observations: observations.value,
  firstObserved: firstObserved.value,
  plants: plants.value.map((plant) => (held.value?.plant.id === plant.id ? held.value.draft : plant)),
  records: work.edits.value.records,
  snags: evaluation.snags.value ?? [],
  selected: selected.value,
}));
const layout = computed(() => stripLayout(content.value));

function draw(): void {
  const element = canvas.value;
  const context = element?.getContext('2d');
  const width = time.width.value;
  if (!element || !context || width < 10) return;
  const density = window.devicePixelRatio || 1;
  element.width = width * density;
  element.height = layout.value.height * density;
  context.setTransform(density, 0, 0, density, 0, 0);
  const style = getComputedStyle(document.documentElement);
  drawStrip({
    context,
    token: (name) => style.getPropertyValue(name).trim(),
    time,
    layout: layout.value,
    content: content.value,
    frames: frames.value,
    rate: facts.value?.rate ?? 30,
    frame: player.shown.value,
    range: range.value,
    cuts: cuts.value,
  });
}

function local({ clientX, clientY }: MouseEvent): [x: number, y: number] {
  const { left = 0, top = 0 } = canvas.value?.getBoundingClientRect() ?? {};
  return [clientX - left, clientY - top];
}

function press(event: PointerEvent): void {
  if (event.button > 1) return;
  const [x, y] = local(event);
  canvas.value?.setPointerCapture(event.pointerId);
  if (event.button === 1 || event.shiftKey) {
    event.preventDefault();
    dragging.value = 'view';
    return;
  }
  const plant = plantAt(layout.value, content.value, time, x, y);
  if (plant) {
    selected.value = plant.plant.id;
    open.goTo(time.frameAt(x));
    held.value = { ...plant, frame: time.frameAt(x), draft: plant.plant };
    return;
  }
  if (y >= TOP + layout.value.seen.length * ROW) selected.value = null;
  const [from, until] = range.value;
  const grip = y > TOP - 6 && y < TOP + 10;
  if (grip && Math.abs(x - time.xOf(from)) < 9) dragging.value = 'from';
  else if (grip && Math.abs(x - time.xOf(until)) < 9) dragging.value = 'until';
  else dragging.value = 'head';
  drag(event);
}

function drag(event: PointerEvent): void {
  if (held.value) return dragPlant(event);
  if (!dragging.value) return;
  if (dragging.value === 'view') {
    const [first, last] = time.span.value;
    return time.pan((-event.movementX / Math.max(1, time.width.value)) * (last - first));
  }
  const frame = time.frameAt(local(event)[0]);
  if (dragging.value === 'head') return open.goTo(frame);
  const [from, until] = range.value;
  draft.value =
    dragging.value === 'from'
      ? [Math.min(frame, until - 1), until]
      : [from, Math.max(from + 1, Math.min(frames.value, frame + 1))];
  open.goTo(dragging.value === 'from' ? draft.value[0] : draft.value[1] - 1);
}

/** The edits with the plant where it is dragged to. */
const moved = ({ plant, draft: { from, until } }: NonNullable<typeof held.value>): TakeEdits =>
  withPlant(work.edits.value, plants.value, plant.id, {
    ...(from !== plant.from && { from }),
    ...(until !== plant.until && { until }),
  });

function dragPlant(event: PointerEvent): void {
  if (!held.value) return;
  const { plant, end, frame } = held.value;
  const most = observations.value?.frames ?? frames.value;
  const next = draggedPlant(plant, end, time.frameAt(local(event)[0]) - frame, most);
  if (next.from === held.value.draft.from && next.until === held.value.draft.until) return;
  held.value = { ...held.value, draft: next };
  // What is looked at follows while the hand moves.
  evaluation.drag(moved(held.value), open.frame.value);
}

function release(): void {
  const plant = held.value;
  if (plant) {
    held.value = null;
    if (plant.draft.from !== plant.plant.from || plant.draft.until !== plant.plant.until)
      work.changeEdits('move plant', moved(plant));
    else evaluation.drag(null, 0);
  } else if (draft.value) open.setRange(...draft.value);
  dragging.value = null;
  draft.value = null;
}

/** The wheel comes nearer and goes away where the pointer is; with Shift, or sideways, it moves along. */
function wheel(event: WheelEvent): void {
  const [from, until] = time.span.value;
  const sideways = event.shiftKey ? event.deltaY || event.deltaX : event.deltaX;
  if (Math.abs(sideways) > Math.abs(event.shiftKey ? 0 : event.deltaY))
    return time.pan((Math.sign(sideways) * (until - from)) / 12);
  const [x] = local(event);
  time.zoom(-Math.sign(event.deltaY), from + (x / Math.max(1, time.width.value)) * (until - from));
}

const STEPS: Record<string, number> = {
  ArrowLeft: -1,
  ArrowRight: 1,
  ArrowDown: -1,
  ArrowUp: 1,
  PageDown: -10,
  PageUp: 10,
};
/** As a slider does (WAI-ARIA). */
function key(event: KeyboardEvent): void {
  const step = STEPS[event.key];
  const [from, until] = range.value;
  if (step) player.step(step * (event.shiftKey ? 10 : 1));
  else if (event.key === 'Home') open.goTo(from);
  else if (event.key === 'End') open.goTo(until - 1);
  else return;
  event.preventDefault();
}

useResizeObserver(box, ([{ contentRect }]) => (time.width.value = contentRect.width));
watch(
  () => player.shown.value,
  (frame) => !dragging.value && !held.value && time.reveal(frame),
);
watch(
  () => [player.shown.value, content.value, cuts.value, range.value, time.span.value, time.width.value, night.night],
  draw,
  { flush: 'post' },
);
</script>

<template>
  <div class="strip">
    <div class="titles" aria-hidden="true" :style="{ paddingTop: `${TOP - 1}px` }">
      <span v-for="row in layout.seen" :key="row.title" :style="{ height: `${ROW}px`, color: `var(--${row.side})` }">{{
        row.title
      }}</span>
      <span
        v-for="{ row } in layout.plants"
        :key="row.title"
        class="planted"
        :style="{ height: `${PLANT_ROW}px`, color: `var(--${row.side})` }"
        >{{ row.title }}</span
      >
      <span v-if="layout.passes" :style="{ height: `${ROW}px`, color: 'var(--amber)' }">passes</span>
      <span v-if="layout.snags !== null" :style="{ height: `${ROW}px`, color: 'var(--berry)' }">snags</span>
    </div>
    <div ref="box" class="track" :style="{ height: `${layout.height}px` }">
      <canvas
        ref="canvas"
        tabindex="0"
        role="slider"
        aria-label="Time"
        :aria-valuemin="0"
        :aria-valuemax="frames - 1"
        :aria-valuenow="player.shown.value"
        :aria-valuetext="`frame ${player.shown.value}`"
        title="Wheel: nearer and farther. Shift and wheel: along."
        data-testid="strip"
        @pointerdown="press"
        @pointermove="drag"
        @pointerup="release"
        @pointercancel="release"
        @wheel.prevent="wheel"
        @keydown="key"
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

canvas:focus-visible {
  outline: 2px solid var(--amber);
  outline-offset: 2px;
}
</style>
