<script setup lang="ts">
import { computed, ref } from 'vue';
import { nameWords } from '@merry-shadow/core/motion/name-words';
import { isSeen, MARK, MARK_COUNT, markSide, type MarkName } from '@merry-shadow/core/observe/body';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { useOpenTake } from '../take/open-take';
import { usePosing } from './posing';
import { withHiddenMark, withMovedMark } from './told-marks';

/** Marks of the body on the picture, to be dragged where they belong; Delete says that a mark is not to be seen here. The take is solved again with it. */
const props = defineProps<{
  observations: Observations;
  /** Frame of the capture. */
  frame: number;
  /** Pixels of the screen for one of the picture, and where the picture's origin is. */
  scale: number;
  origin: readonly [x: number, y: number];
}>();
const { work, player } = useOpenTake();
const posing = usePosing();
const MARKS: readonly MarkName[] = [
  'nose',
  ...(['left', 'right'] as const).flatMap((side) =>
    ['Shoulder', 'Elbow', 'Wrist', 'Hip', 'Knee', 'Ankle', 'Heel', 'FootIndex'].map(
      (part) => `${side}${part}` as MarkName,
    ),
  ),
];
const words = (mark: MarkName): string => nameWords(mark.replace('FootIndex', 'Toes'));

/** The mark that is being dragged, where it is now and where it was, pixels of the picture. */
const held = ref<{
  mark: MarkName;
  x: number;
  y: number;
  was: readonly [number, number];
  from: readonly [number, number];
} | null>(null);
const placed = computed(() => {
  const { observations, frame, scale, origin } = props;
  if (frame < 0 || frame >= observations.frames || !isSeen(observations, frame)) return [];
  return MARKS.map((mark) => {
    const at = (frame * MARK_COUNT + MARK[mark]) * 3;
    const own = held.value?.mark === mark ? held.value : null;
    const [x, y] = [own?.x ?? observations.marks[at], own?.y ?? observations.marks[at + 1]];
    return {
      mark,
      x,
      y,
      left: origin[0] + x * scale,
      top: origin[1] + y * scale,
      seen: observations.marks[at + 2] > 0,
    };
  });
});

function press(event: PointerEvent, { mark, x, y }: { mark: MarkName; x: number; y: number }): void {
  if (event.button !== 0) return;
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  player.pause();
  posing.gripMark(mark);
  held.value = { mark, x, y, was: [x, y], from: [event.clientX - x * props.scale, event.clientY - y * props.scale] };
}

function move(event: PointerEvent): void {
  const { value } = held;
  if (!value) return;
  value.x = (event.clientX - value.from[0]) / props.scale;
  value.y = (event.clientY - value.from[1]) / props.scale;
  posing.dragMark(value.mark, [value.x - value.was[0], value.y - value.was[1]]);
}

function release(): void {
  const done = held.value;
  held.value = null;
  if (done && Math.hypot(done.x - done.was[0], done.y - done.was[1]) > 0.5) put(done.mark, done.x, done.y);
  else posing.cancel();
}

function letGo(): void {
  held.value = null;
  posing.cancel();
}

const put = (mark: MarkName, x: number, y: number): void =>
  posing.endMark(`move the mark of the ${words(mark)}`, (edits) => withMovedMark(edits, mark, props.frame, x, y));
const hide = (mark: MarkName): void =>
  work.changeEdits(`hide the mark of the ${words(mark)}`, withHiddenMark(work.edits.value, mark, props.frame));

const STEPS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
function key(event: KeyboardEvent, { mark, x, y }: { mark: MarkName; x: number; y: number }): void {
  const step = STEPS[event.key];
  if (!step && event.key !== 'Delete') return;
  event.preventDefault();
  event.stopPropagation();
  if (step) {
    posing.gripMark(mark);
    posing.dragMark(mark, step);
    put(mark, x + step[0], y + step[1]);
  } else hide(mark);
}
</script>

<template>
  <div
    class="marks"
    role="group"
    aria-label="Marks on the picture"
    @pointermove="move"
    @pointerup="release"
    @pointercancel="letGo"
  >
    <button
      v-for="mark in placed"
      :key="mark.mark"
      type="button"
      class="mark"
      :class="[`of-${markSide(mark.mark)}`, { unseen: !mark.seen }]"
      :style="{ left: `${mark.left}px`, top: `${mark.top}px` }"
      :aria-label="`Mark of the ${words(mark.mark)}`"
      :title="`${words(mark.mark)}: drag it where it belongs; Delete: not to be seen here`"
      @pointerdown="press($event, mark)"
      @keydown="key($event, mark)"
    ></button>
  </div>
</template>

<style scoped>
.marks {
  inset: 0;
  overflow: hidden;
  pointer-events: none;
  position: absolute;
}

/* The marks themselves are drawn below; here is what one takes hold of. */
.mark {
  background: transparent;
  border: 0;
  border-radius: 50%;
  cursor: grab;
  height: 18px;
  margin: -9px 0 0 -9px;
  padding: 0;
  pointer-events: auto;
  position: absolute;
  touch-action: none;
  width: 18px;
}

.mark:hover,
.mark:focus-visible,
.mark:active {
  box-shadow:
    0 0 0 2px #fff7e6,
    0 0 0 4px var(--amber);
  outline: none;
}

.mark.unseen {
  border: 2px dashed #fff7e6;
}

.mark:active {
  background: var(--amber-glow);
  cursor: grabbing;
}
</style>
