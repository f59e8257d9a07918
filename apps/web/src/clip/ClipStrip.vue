<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import type { Judgement } from '@merry-shadow/core/judge/judge';
import type { TakeView } from '@merry-shadow/contracts/take';
import { clipFile } from '../api/client';
import { useNight } from '../theme/night';
import { AXIS, clipStripLayout, drawClipStrip, JUDGED_ROW, PICTURES, takeAt, WAVE } from './clip-strip';
import { useOpenClip } from './open-clip';

/** A clip's time: pictures, sound, what was judged, and takes, whose ends are dragged. */
const props = defineProps<{ pointed: Judgement | null }>();
const open = useOpenClip();
const { clip, facts, takes, chosenId, player, time, looks, wave, offered } = open;
const canvas = ref<HTMLCanvasElement>();
const box = ref<HTMLDivElement>();
const night = useNight();
const pictures = shallowRef<HTMLImageElement | null>(null);
const loaded = ref(0);
watch(
  () => [clip.value?.hash, clip.value?.state],
  ([hash, state]) => {
    if (!hash || state !== 'ready') return;
    const image = new Image();
    image.onload = () => loaded.value++;
    image.src = clipFile({ id: open.id, hash }, 'filmstrip');
    pictures.value = image;
  },
  { immediate: true },
);

const frames = computed(() => facts.value?.frames ?? 1);
/** A take whose end is dragged, as it would be. */
const held = ref<{ take: TakeView; end: 'from' | 'until'; from: number; until: number } | null>(null);
const dragging = ref<'head' | 'view' | null>(null);
const shownTakes = computed(() =>
  takes.value.map((take) =>
    held.value?.take.id === take.id ? { ...take, fromFrame: held.value.from, untilFrame: held.value.until } : take,
  ),
);
const layout = computed(() => clipStripLayout({ wave: wave.value, looks: looks.value, takes: shownTakes.value }));

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
  drawClipStrip(context, (name) => style.getPropertyValue(name).trim(), time, layout.value, {
    pictures: pictures.value,
    aspect: (facts.value?.width ?? 16) / (facts.value?.height ?? 9),
    wave: wave.value,
    looks: looks.value,
    takes: shownTakes.value,
    offered: offered.value,
    chosen: chosenId.value,
    cuts: looks.value?.cuts ?? [],
    frames: frames.value,
    rate: facts.value?.rate ?? 30,
    frame: player.shown.value,
    pointed: props.pointed,
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
  const found = takeAt(layout.value, takes.value, time, x, y);
  if (found) {
    chosenId.value = found.take.id;
    const { fromFrame: from, untilFrame: until } = found.take;
    if (found.end) held.value = { take: found.take, end: found.end, from, until };
    return;
  }
  dragging.value = 'head';
  drag(event);
}

function drag(event: PointerEvent): void {
  const frame = time.frameAt(local(event)[0]);
  if (held.value) {
    const { take, end } = held.value;
    const from = end === 'from' ? Math.min(frame, take.untilFrame - 1) : take.fromFrame;
    const until = end === 'until' ? Math.max(take.fromFrame + 1, Math.min(frames.value, frame + 1)) : take.untilFrame;
    held.value = { ...held.value, from, until };
    open.goTo(end === 'from' ? from : until - 1);
  } else if (dragging.value === 'view') {
    const [first, last] = time.span.value;
    time.pan((-event.movementX / Math.max(1, time.width.value)) * (last - first));
  } else if (dragging.value === 'head') open.goTo(frame);
}

async function release(): Promise<void> {
  dragging.value = null;
  if (!held.value) return;
  const { take, from, until } = held.value;
  await open.setRange(take, from, until);
  held.value = null;
}

function wheel(event: WheelEvent): void {
  const [from, until] = time.span.value;
  const sideways = event.shiftKey ? event.deltaY || event.deltaX : event.deltaX;
  if (Math.abs(sideways) > Math.abs(event.shiftKey ? 0 : event.deltaY))
    return time.pan((Math.sign(sideways) * (until - from)) / 12);
  time.zoom(-Math.sign(event.deltaY), from + (local(event)[0] / Math.max(1, time.width.value)) * (until - from));
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
  if (step) player.step(step * (event.shiftKey ? 10 : 1));
  else if (event.key === 'Home') open.goTo(0);
  else if (event.key === 'End') open.goTo(frames.value - 1);
  else return;
  event.preventDefault();
}

useResizeObserver(box, ([{ contentRect }]) => (time.width.value = contentRect.width));
watch(
  () => player.shown.value,
  (frame) => !dragging.value && !held.value && time.reveal(frame),
);
watch(
  () => [
    player.shown.value,
    layout.value,
    loaded.value,
    chosenId.value,
    offered.value,
    props.pointed,
    time.span.value,
    time.width.value,
    night.night,
  ],
  draw,
  { flush: 'post' },
);
</script>

<template>
  <div class="strip">
    <div class="titles" aria-hidden="true">
      <span :style="{ height: `${PICTURES}px`, marginTop: `${AXIS}px` }"></span>
      <span v-if="layout.wave !== null" :style="{ height: `${WAVE}px`, marginTop: '4px', lineHeight: `${WAVE}px` }"
        >sound</span
      >
      <div class="judged" :style="{ marginTop: '4px' }">
        <span v-for="row in layout.judged" :key="row.title" :style="{ height: `${JUDGED_ROW + 1}px` }">{{
          row.title
        }}</span>
      </div>
      <span class="takes">takes</span>
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
        title="Drag the ends of a take. Wheel: nearer and farther. Shift and wheel: along."
        data-testid="clip-strip"
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
  grid-template-columns: 150px minmax(0, 1fr);
}

.titles {
  display: flex;
  flex-direction: column;
  font-size: 11px;
  line-height: 10px;
  text-align: right;
}

.judged {
  display: flex;
  flex-direction: column;
}

.takes {
  line-height: 16px;
  margin-top: 5px;
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
