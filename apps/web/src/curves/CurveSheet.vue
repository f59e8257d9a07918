<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { paintCanvas, placeOn } from '../play/canvas';
import { turnWheel } from '../play/time-scale';
import { useOpenTake } from '../take/open-take';
import { useNight } from '../theme/night';
import { useCurveDesk } from './curve-desk';
import { chooser, dragHandle, isWithin, moveKeys, type Channels, type KeyPlace } from './curve-edits';
import {
  chosenLines,
  drawHeld,
  drawStill,
  underPlace,
  valueScale,
  type CurveCanvas,
  type ValueScale,
} from './draw-curves';

/** The sheet on which curves are drawn over the strip's time, and their keys chosen and dragged. */
const desk = useCurveDesk();
const { time, player, frame, firstObserved, goTo } = useOpenTake();
const night = useNight();
const canvas = ref<HTMLCanvasElement>();
const ground = ref<HTMLCanvasElement>();
const box = ref<HTMLDivElement>();
const height = ref(170);
useResizeObserver(box, ([{ contentRect }]) => (height.value = contentRect.height));

const fitted = computed(() =>
  valueScale(
    desk.shown.value.flatMap((channel) =>
      [desk.captured.value?.[channel], desk.now.value?.[channel]].filter((row) => row !== undefined),
    ),
    desk.shown.value.map((channel) => desk.channels.value[channel] ?? []),
    time.span.value.map((at) => at - firstObserved.value) as [number, number],
    height.value,
  ),
);
/** A hand that moves no farther presses, pixels. */
const PRESS = 4;
/** While something is dragged the scale stays. */
const held = shallowRef<{ scale: ValueScale; from: [number, number]; channels: Channels; what: Held } | null>(null);
type Held =
  | { kind: 'keys'; chosen: readonly KeyPlace[] }
  | { kind: 'handle'; place: KeyPlace; side: 'before' | 'after' }
  | { kind: 'box' | 'line'; kept: readonly KeyPlace[] };
const outline = shallowRef<readonly (readonly [number, number])[]>([]);
const scale = computed(() => held.value?.scale ?? fitted.value);
const xOf = (at: number): number => (time.xOf(at + firstObserved.value) + time.xOf(at + firstObserved.value + 1)) / 2;
const framesOf = (pixels: number): number => pixels / Math.max(1e-6, time.xOf(1) - time.xOf(0));

/** What lies still and what is held are painted apart, so that all lines need not be drawn again while some are dragged. */
const paint = (on: HTMLCanvasElement | undefined, draw: (sheet: CurveCanvas) => void): void =>
  paintCanvas(on, time.width.value, height.value, (context, token) =>
    draw({ context, token, desk, time, values: scale.value, height: height.value, first: firstObserved.value }),
  );
const place = computed(() => [
  scale.value,
  time.span.value,
  time.width.value,
  height.value,
  desk.captured.value,
  desk.now.value,
  desk.shown.value,
  night.night,
]);
const heldLines = computed(() => [...chosenLines(desk)].sort().join(' '));
watch([place, desk.kept, heldLines], () => paint(ground.value, drawStill), { flush: 'post' });
watch(
  [place, desk.channels, desk.chosen, frame, outline],
  () => paint(canvas.value, (sheet) => drawHeld(sheet, { frame: frame.value, outline: outline.value })),
  { flush: 'post' },
);

const local = (event: MouseEvent): [number, number] => placeOn(canvas.value, event);

function press(event: PointerEvent): void {
  if (event.button !== 0) return;
  canvas.value?.setPointerCapture(event.pointerId);
  const from = local(event);
  const begin = (what: Held): void =>
    void (held.value = { scale: fitted.value, from, channels: desk.channels.value, what });
  const hit = underPlace(desk, xOf, scale.value, ...from);
  if (hit?.side) return begin({ kind: 'handle', place: hit.place, side: hit.side });
  if (!hit) {
    const kept = event.shiftKey ? desk.chosen.value : [];
    outline.value = [from];
    return begin({ kind: event.altKey ? 'line' : 'box', kept });
  }
  const own = chooser(desk.chosen.value)(hit.place);
  if (event.shiftKey) desk.choose(own ? without(hit.place) : [...desk.chosen.value, hit.place]);
  else if (!own) desk.choose([hit.place]);
  begin({ kind: 'keys', chosen: desk.chosen.value });
}
const without = (place: KeyPlace): KeyPlace[] => {
  const isIt = chooser([place]);
  return desk.chosen.value.filter((one) => !isIt(one));
};

function drag(event: PointerEvent): void {
  if (!held.value) return;
  const { from, channels, what, scale: values } = held.value;
  const [x, y] = local(event);
  const value = values.valueAt(y) - values.valueAt(from[1]);
  if (what.kind === 'keys') {
    if (what.chosen.length === 0) return;
    // With Control keys stay in their frames.
    const by = { frames: event.ctrlKey ? 0 : framesOf(x - from[0]), value };
    const moved = moveKeys(channels, what.chosen, by, desk.frames.value);
    desk.choose(moved.chosen);
    desk.drag(moved.channels);
  } else if (what.kind === 'handle') {
    const key = channels[what.place.channel].find(({ frame: at }) => at === what.place.frame);
    if (!key) return;
    const aside = framesOf(x - xOf(key.frame)) * (what.side === 'before' ? -1 : 1);
    const to = [aside, values.valueAt(y) - key.value] as const;
    desk.drag(dragHandle(channels, what.place, what.side, to, event.altKey));
  } else {
    const [ax, ay] = from;
    outline.value = what.kind === 'line' ? [...outline.value, [x, y]] : [from, [x, ay], [x, y], [ax, y]];
  }
}

function release(): void {
  const now = held.value;
  held.value = null;
  if (!now) return;
  const { what } = now;
  if (what.kind === 'keys' || what.kind === 'handle')
    return desk.drop(what.kind === 'keys' ? 'move keys' : 'turn a handle');
  const drawn = outline.value;
  outline.value = [];
  const far = Math.max(...drawn.map(([x, y]) => Math.hypot(x - now.from[0], y - now.from[1])));
  if (far < PRESS) {
    // A press beside all keys goes to the frame.
    desk.choose(what.kept);
    return goTo(time.frameAt(now.from[0]));
  }
  const caught = desk.shown.value.flatMap((channel) =>
    (desk.channels.value[channel] ?? []).flatMap((key): KeyPlace[] =>
      isWithin(xOf(key.frame), now.scale.yOf(key.value), drawn) ? [{ channel, frame: key.frame }] : [],
    ),
  );
  const isKept = chooser(what.kept);
  desk.choose([...what.kept, ...caught.filter((place) => !isKept(place))]);
}

/** What one press of an arrow key moves: a frame, or this part of the unit. */
const NUDGE = computed(() => (desk.found.value?.unit === 'share' ? 0.01 : 1));
function keydown(event: KeyboardEvent): void {
  const moves: Record<string, { frames: number; value: number }> = {
    ArrowLeft: { frames: -1, value: 0 },
    ArrowRight: { frames: 1, value: 0 },
    ArrowUp: { frames: 0, value: NUDGE.value },
    ArrowDown: { frames: 0, value: -NUDGE.value },
  };
  const move = moves[event.key];
  if (move) {
    if (desk.chosen.value.length > 0) desk.nudge(move);
    else player.step(move.frames || Math.sign(move.value));
  } else if (event.key === 'Delete' || event.key === 'Backspace') desk.remove();
  else if (event.key === 'Escape') desk.choose([]);
  else return;
  event.preventDefault();
  event.stopPropagation();
}

const wheel = (event: WheelEvent): void => turnWheel(time, event, local(event)[0]);
</script>

<template>
  <div ref="box" class="sheet">
    <canvas ref="ground" class="ground" aria-hidden="true"></canvas>
    <canvas
      ref="canvas"
      tabindex="0"
      role="application"
      aria-label="Keys of curves: arrows move the chosen ones, Delete takes them out"
      title="Drag keys; drag a box round them, with Alt a free line; with Control keys keep their frames"
      @pointerdown="press"
      @pointermove="drag"
      @pointerup="release"
      @pointercancel="release"
      @wheel.prevent="wheel"
      @keydown="keydown"
    ></canvas>
  </div>
</template>

<style scoped>
.sheet {
  height: 164px;
  /* As far in as the strip below, which has titles before it. */
  margin-left: 72px;
  position: relative;
}

canvas {
  border-radius: 6px;
  height: 100%;
  inset: 0;
  position: absolute;
  touch-action: none;
  width: 100%;
}

.ground {
  background: var(--paper);
}

canvas:focus-visible {
  outline: 2px solid var(--amber);
}
</style>
