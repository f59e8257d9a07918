<script setup lang="ts">
import {
  PhDrop,
  PhEquals,
  PhLineSegment,
  PhPlus,
  PhStairs,
  PhTrash,
  PhWaveSine,
  PhWaveTriangle,
} from '@phosphor-icons/vue';
import { useResizeObserver } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { MOST_EASE } from '@merry-shadow/core/layers/layer';
import IconButton from '../shell/IconButton.vue';
import { turnWheel } from '../play/time-scale';
import { useOpenTake } from '../take/open-take';
import { useNight } from '../theme/night';
import { useCurveDesk } from './curve-desk';
import { dragHandle, isChosen, isWithin, moveKeys, type Channels, type KeyPlace } from './curve-edits';
import { CHANNEL_TONES, drawCurves, underPlace, valueScale, type ValueScale } from './draw-curves';

/** Curves of a joint, the root or the face over the strip's time: keys are chosen, dragged and shaped. */
const desk = useCurveDesk();
const { time, player, frame, firstObserved, goTo } = useOpenTake();
const night = useNight();
const canvas = ref<HTMLCanvasElement>();
const box = ref<HTMLDivElement>();
const height = ref(170);
useResizeObserver(box, ([{ contentRect }]) => (height.value = contentRect.height));

const fitted = computed(() =>
  valueScale(
    desk.axes.value.flatMap((channel) =>
      [desk.captured.value?.[channel], desk.now.value?.[channel], desk.channels.value[channel]].filter(
        (row) => row !== undefined,
      ),
    ),
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

function paint(): void {
  const context = canvas.value?.getContext('2d');
  if (!canvas.value || !context || time.width.value < 10) return;
  const density = window.devicePixelRatio || 1;
  canvas.value.width = time.width.value * density;
  canvas.value.height = height.value * density;
  context.setTransform(density, 0, 0, density, 0, 0);
  const style = getComputedStyle(document.documentElement);
  drawCurves({
    context,
    token: (name) => style.getPropertyValue(name).trim(),
    desk,
    time,
    values: scale.value,
    height: height.value,
    first: firstObserved.value,
    frame: frame.value,
    outline: outline.value,
  });
}
watch(
  () => [
    scale.value,
    desk.channels.value,
    desk.now.value,
    desk.captured.value,
    desk.axes.value,
    desk.chosen.value,
    frame.value,
    time.span.value,
    time.width.value,
    height.value,
    outline.value,
    night.night,
  ],
  paint,
  { flush: 'post' },
);

function local({ clientX, clientY }: MouseEvent): [number, number] {
  const { left = 0, top = 0 } = canvas.value?.getBoundingClientRect() ?? {};
  return [clientX - left, clientY - top];
}

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
  const own = isChosen(desk.chosen.value, hit.place);
  if (event.shiftKey) desk.choose(own ? without(hit.place) : [...desk.chosen.value, hit.place]);
  else if (!own) desk.choose([hit.place]);
  begin({ kind: 'keys', chosen: desk.chosen.value });
}
const without = ({ channel, frame: at }: KeyPlace): KeyPlace[] =>
  desk.chosen.value.filter((one) => one.channel !== channel || one.frame !== at);

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
  const caught = desk.axes.value.flatMap((channel) =>
    (desk.channels.value[channel] ?? []).flatMap((key): KeyPlace[] =>
      isWithin(xOf(key.frame), now.scale.yOf(key.value), drawn) ? [{ channel, frame: key.frame }] : [],
    ),
  );
  desk.choose([...what.kept, ...caught.filter((place) => !isChosen(what.kept, place))]);
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

const toggle = (channel: number): void => {
  const next = desk.axes.value.includes(channel)
    ? desk.axes.value.filter((one) => one !== channel)
    : [...desk.axes.value, channel].sort();
  desk.axes.value = next.length > 0 ? next : [channel];
};
const none = computed(() => desk.chosen.value.length === 0);
const SHAPES = [
  { shape: 'smooth', icon: PhWaveSine, label: 'Smooth' },
  { shape: 'straight', icon: PhWaveTriangle, label: 'Straight to the next key' },
  { shape: 'step', icon: PhStairs, label: 'Stay until the next key' },
  { shape: 'free', icon: PhDrop, label: 'Free, with handles' },
] as const;
const summary = computed(() => {
  const count = desk.channels.value.reduce((sum, keys) => sum + keys.length, 0);
  if (count === 0) return 'No keys: the motion as it is. Thin it to keys, or put one in at the shown frame.';
  const off = desk.thinned.value;
  const far = off
    ? ` · at most ${desk.found.value?.unit === 'centimetres' ? '' : `${off.off.toFixed(2)}${desk.unit.value} `}${off.centimetres > 0 ? `${off.centimetres.toFixed(1)} cm ` : ''}off, frame ${off.frame + firstObserved.value}`
    : '';
  return `${count} keys${none.value ? '' : `, ${desk.chosen.value.length} chosen`}${far}`;
});
</script>

<template>
  <section class="desk" aria-label="Curve desk" data-testid="curve-desk">
    <div class="tools">
      <el-select v-model="desk.target.value" filterable size="small" aria-label="Curves of" class="target">
        <el-option v-for="{ value, title } in desk.targets.value" :key="value" :value="value" :label="title" />
      </el-select>
      <span class="axes" role="group" aria-label="Channels">
        <button
          v-for="(title, channel) in desk.titles.value"
          :key="title"
          type="button"
          :aria-pressed="desk.axes.value.includes(channel)"
          :style="{ color: `var(${CHANNEL_TONES[channel]})` }"
          :title="`Show or hide ${title}; double click shows it alone`"
          @click="toggle(channel)"
          @dblclick="desk.axes.value = [channel]"
        >
          {{ title }}
        </button>
      </span>
      <IconButton
        :icon="PhPlus"
        label="Put a key in at the shown frame"
        title="Put a key in at the shown frame"
        @click="desk.insert()"
      />
      <IconButton
        v-for="{ shape, icon, label } in SHAPES"
        :key="shape"
        :icon="icon"
        :label="label"
        :title="label"
        :disabled="none"
        @click="desk.shape(shape)"
      />
      <IconButton
        :icon="PhEquals"
        label="Bring keys to one value"
        title="Bring keys to one value"
        :disabled="none"
        @click="desk.level()"
      />
      <IconButton
        :icon="PhLineSegment"
        label="Bring keys onto the line between their neighbours"
        title="Bring keys onto the line between their neighbours"
        :disabled="none"
        @click="desk.straighten()"
      />
      <el-button size="small" :disabled="none" title="Half as far from their mean" @click="desk.scale(0.5)"
        >× ½</el-button
      >
      <el-button size="small" :disabled="none" title="Half as far again from their mean" @click="desk.scale(1.5)"
        >× 1½</el-button
      >
      <IconButton :icon="PhTrash" label="Take keys out" title="Take keys out" :disabled="none" @click="desk.remove()" />
      <span class="space"></span>
      <label v-if="desk.found.value?.unit !== 'centimetres'" class="number"
        >within
        <el-input-number
          v-model="desk.tolerance.value.degrees"
          :min="0.1"
          :max="45"
          :step="0.5"
          size="small"
          controls-position="right"
          aria-label="Thin within degrees"
        />
        °</label
      >
      <label v-if="desk.found.value?.count === 3" class="number"
        ><el-input-number
          v-model="desk.tolerance.value.centimetres"
          :min="0.1"
          :max="50"
          :step="0.5"
          size="small"
          controls-position="right"
          aria-label="Thin within centimetres"
        />
        cm</label
      >
      <el-button size="small" type="primary" @click="desk.thin()">Thin to keys</el-button>
    </div>
    <div ref="box" class="sheet">
      <canvas
        ref="canvas"
        tabindex="0"
        role="application"
        aria-label="Keys of curves: arrows move the chosen ones, Delete takes them out"
        :title="'Drag keys; drag a box round them, with Alt a free line; with Control keys keep their frames'"
        @pointerdown="press"
        @pointermove="drag"
        @pointerup="release"
        @pointercancel="release"
        @wheel.prevent="wheel"
        @keydown="keydown"
      ></canvas>
    </div>
    <div class="tools">
      <p class="quiet number" role="status" data-testid="curve-summary">{{ summary }}</p>
      <span class="space"></span>
      <template v-if="desk.stored.value">
        <label class="number"
          >comes in over
          <el-input-number
            :model-value="desk.stored.value.ease"
            :min="0"
            :max="MOST_EASE"
            size="small"
            controls-position="right"
            aria-label="Frames over which the curves come in and go out"
            @change="(ease: number | undefined) => desk.set('ease of curves', { ease: ease ?? 0 })"
          />
          frames</label
        >
        <el-checkbox
          :model-value="desk.stored.value.muted"
          @change="(muted: unknown) => desk.set('leave curves out', { muted: muted === true })"
          >Left out</el-checkbox
        >
        <el-button size="small" @click="desk.clear()">Remove all keys</el-button>
      </template>
    </div>
  </section>
</template>

<style scoped>
.desk {
  background: var(--sheet);
  border-top: 1px solid var(--edge);
  display: flex;
  flex-direction: column;
  gap: 4px;
  padding: 6px 16px 4px;
}

.tools {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
}

.target {
  width: 170px;
}

.axes {
  display: flex;
  gap: 2px;
}

.axes button {
  background: none;
  border: 1px solid transparent;
  border-radius: 7px;
  cursor: pointer;
  font: inherit;
  font-weight: 700;
  min-width: 26px;
  opacity: 0.45;
  padding: 2px 6px;
}

.axes button[aria-pressed='true'] {
  border-color: currentcolor;
  opacity: 1;
}

.el-input-number {
  width: 82px;
}

.el-button {
  margin: 0;
}

.space {
  flex: 1;
}

.sheet {
  height: 164px;
  margin-left: 72px;
  position: relative;
}

canvas {
  background: var(--paper);
  border-radius: 6px;
  height: 100%;
  inset: 0;
  position: absolute;
  touch-action: none;
  width: 100%;
}

canvas:focus-visible {
  outline: 2px solid var(--amber);
}

p {
  font-size: 13px;
  margin: 0;
}
</style>
