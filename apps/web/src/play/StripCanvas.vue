<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core';
import { ref, watch } from 'vue';
import { useNight } from '../theme/night';
import { paintCanvas, placeOn } from './canvas';
import type { Player } from './player';
import { turnWheel, type TimeScale } from './time-scale';

/**
 * Time from left to right, drawn by who uses it. It is a slider (WAI-ARIA): arrow keys step, the wheel comes nearer, with Shift it moves along, and with
 * the middle button or Shift the view is dragged.
 */
const props = defineProps<{
  player: Player;
  time: TimeScale;
  frames: number;
  height: number;
  /** Where Home and End go. */
  range: readonly [from: number, until: number];
  /** Whether something is held by the hand: the view stays where it is. */
  held: boolean;
  hint: string;
  /** Draws; `token` gives a colour of the theme. Called whenever what it depends on may have changed. */
  draw: (context: CanvasRenderingContext2D, token: (name: string) => string) => void;
  /** What drawing depends on besides time, frame and theme. */
  content: unknown;
}>();
const emit = defineEmits<{ press: [x: number, y: number]; drag: [frame: number]; release: [] }>();
const canvas = ref<HTMLCanvasElement>();
const box = ref<HTMLDivElement>();
const night = useNight();
const pressed = ref<'view' | 'content' | null>(null);

const paint = (): void => paintCanvas(canvas.value, props.time.width.value, props.height, props.draw);
const local = (event: MouseEvent): [x: number, y: number] => placeOn(canvas.value, event);

function press(event: PointerEvent): void {
  if (event.button > 1) return;
  canvas.value?.setPointerCapture(event.pointerId);
  if (event.button === 1 || event.shiftKey) {
    event.preventDefault();
    pressed.value = 'view';
    return;
  }
  pressed.value = 'content';
  emit('press', ...local(event));
}

function drag(event: PointerEvent): void {
  if (pressed.value === 'content') return emit('drag', props.time.frameAt(local(event)[0]));
  if (pressed.value !== 'view') return;
  const [first, last] = props.time.span.value;
  props.time.pan((-event.movementX / Math.max(1, props.time.width.value)) * (last - first));
}

function release(): void {
  if (pressed.value === 'content') emit('release');
  pressed.value = null;
}

const wheel = (event: WheelEvent): void => turnWheel(props.time, event, local(event)[0]);

const STEPS: Record<string, number> = {
  ArrowLeft: -1,
  ArrowRight: 1,
  ArrowDown: -1,
  ArrowUp: 1,
  PageDown: -10,
  PageUp: 10,
};
function key(event: KeyboardEvent): void {
  const { player, range } = props;
  const step = STEPS[event.key];
  if (step) player.step(step * (event.shiftKey ? 10 : 1));
  else if (event.key === 'Home' || event.key === 'End') {
    player.pause();
    player.seek(event.key === 'Home' ? range[0] : range[1] - 1);
  } else return;
  event.preventDefault();
}

const frame = props.player.shown;
useResizeObserver(box, ([{ contentRect }]) => props.time.resize(contentRect.width));
watch(frame, (shown) => pressed.value === null && !props.held && props.time.reveal(shown));
watch(
  () => [frame.value, props.content, props.height, props.time.span.value, props.time.width.value, night.night],
  paint,
  { flush: 'post' },
);
</script>

<template>
  <div ref="box" class="track" :style="{ height: `${height}px` }">
    <canvas
      ref="canvas"
      tabindex="0"
      role="slider"
      aria-label="Time"
      :aria-valuemin="0"
      :aria-valuemax="frames - 1"
      :aria-valuenow="frame"
      :aria-valuetext="`frame ${frame}`"
      :title="hint"
      data-testid="strip"
      @pointerdown="press"
      @pointermove="drag"
      @pointerup="release"
      @pointercancel="release"
      @wheel.prevent="wheel"
      @keydown="key"
    ></canvas>
  </div>
</template>

<style scoped>
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
