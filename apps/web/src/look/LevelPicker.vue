<script setup lang="ts">
import { computed, onMounted, ref } from 'vue';
import { pitchFromLine, type LevelLine, type PicturePoint } from '@merry-shadow/core/camera/level-line';
import { focalFromFieldOfView } from '@merry-shadow/core/camera/pinhole';

/** Lies over the picture: a line whose ends are dragged along the horizon or an upright edge, and the pitch of the camera that it tells. */
const props = defineProps<{
  width: number;
  height: number;
  scale: number;
  fieldOfView: number;
  below: HTMLElement | null;
}>();
const emit = defineEmits<{ use: [degrees: number]; close: [] }>();
const KINDS: { label: string; value: LevelLine }[] = [
  { label: 'Horizon', value: 'horizon' },
  { label: 'Upright edge', value: 'upright' },
];
const kind = ref<LevelLine>('horizon');
const STARTS: Record<LevelLine, readonly [PicturePoint, PicturePoint]> = {
  horizon: [
    [0.2, 0.4],
    [0.8, 0.4],
  ],
  upright: [
    [0.18, 0.2],
    [0.18, 0.8],
  ],
};
const ends = ref<[PicturePoint, PicturePoint]>(startOf('horizon'));
const dragged = ref<number | null>(null);
const handles = ref<HTMLButtonElement[]>();
const veil = ref<HTMLDivElement>();
onMounted(() => handles.value?.[0]?.focus());

const pitch = computed(() => {
  const focal = focalFromFieldOfView(props.fieldOfView, props.width, props.height);
  const told = pitchFromLine(kind.value, ends.value, focal, props.width, props.height);
  return told === null ? null : (told * 180) / Math.PI;
});
/** What a take's setting can hold, degrees. */
const STEEPEST = 60;
const possible = computed(() => pitch.value !== null && Math.abs(pitch.value) <= STEEPEST);
const words = computed(() => {
  if (pitch.value === null)
    return kind.value === 'horizon'
      ? 'Lay the line along the horizon, from side to side.'
      : 'Lay the line along something upright, well beside the middle.';
  if (!possible.value) return `That would be ${pitch.value.toFixed(1)}°: more than ${STEEPEST}° can't be used.`;
  return pitch.value < 0
    ? `The camera looks up by ${(-pitch.value).toFixed(1)}°.`
    : `The camera looks down by ${pitch.value.toFixed(1)}°.`;
});

function startOf(of: LevelLine): [PicturePoint, PicturePoint] {
  const [a, b] = STARTS[of].map(([x, y]): PicturePoint => [x * props.width, y * props.height]);
  return [a, b];
}

function choose(of: LevelLine): void {
  kind.value = of;
  ends.value = startOf(of);
}

function moveTo(end: number, [x, y]: PicturePoint): void {
  const inside = (value: number, most: number): number => Math.max(0, Math.min(most, value));
  const moved: PicturePoint = [inside(x, props.width), inside(y, props.height)];
  ends.value = end === 0 ? [moved, ends.value[1]] : [ends.value[0], moved];
}

function drag(event: PointerEvent): void {
  const box = veil.value?.getBoundingClientRect();
  if (dragged.value === null || !box) return;
  moveTo(dragged.value, [(event.clientX - box.left) / props.scale, (event.clientY - box.top) / props.scale]);
}

function take(event: PointerEvent, end: number): void {
  dragged.value = end;
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
}

const STEPS: Record<string, PicturePoint> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
function nudge(event: KeyboardEvent, end: number): void {
  const step = STEPS[event.key];
  if (!step) return;
  event.preventDefault();
  event.stopPropagation();
  const by = event.shiftKey ? 10 : 1;
  const [x, y] = ends.value[end];
  moveTo(end, [x + step[0] * by, y + step[1] * by]);
}
</script>

<template>
  <div
    ref="veil"
    class="veil"
    role="group"
    aria-label="Measure how far the camera looks down"
    @pointermove="drag"
    @pointerup="dragged = null"
    @pointercancel="dragged = null"
  >
    <svg :viewBox="`0 0 ${width} ${height}`">
      <line class="halo" :x1="ends[0][0]" :y1="ends[0][1]" :x2="ends[1][0]" :y2="ends[1][1]" />
      <line :x1="ends[0][0]" :y1="ends[0][1]" :x2="ends[1][0]" :y2="ends[1][1]" />
    </svg>
    <button
      v-for="(end, i) in ends"
      :key="i"
      ref="handles"
      type="button"
      class="end"
      :style="{ left: `${end[0] * scale}px`, top: `${end[1] * scale}px` }"
      :aria-label="`End ${i + 1} of the line, at ${end[0].toFixed(0)}, ${end[1].toFixed(0)}: drag it, or move it with the arrow keys`"
      @pointerdown.prevent="(event) => take(event, i)"
      @keydown="(event) => nudge(event, i)"
    ></button>
  </div>
  <Teleport v-if="below" :to="below">
    <div class="told">
      <el-segmented
        :model-value="kind"
        :options="KINDS"
        size="small"
        aria-label="What the line lies along"
        @change="(of: LevelLine) => choose(of)"
      />
      <span role="status">{{ words }}</span>
      <el-button size="small" type="primary" :disabled="!possible" @click="pitch !== null && emit('use', pitch)"
        >Use it</el-button
      >
      <el-button size="small" @click="emit('close')">Leave as it is</el-button>
    </div>
  </Teleport>
</template>

<style scoped>
.veil {
  background: rgb(20 14 10 / 20%);
  inset: 0;
  position: absolute;
  touch-action: none;
}

svg {
  height: 100%;
  inset: 0;
  pointer-events: none;
  position: absolute;
  width: 100%;
}

line {
  stroke: #ffd58a;
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
}

.halo {
  stroke: rgb(20 14 10 / 70%);
  stroke-width: 5;
}

.end {
  background: rgb(255 213 138 / 35%);
  border: 2px solid #ffd58a;
  border-radius: 3px;
  cursor: grab;
  height: 22px;
  padding: 0;
  position: absolute;
  transform: translate(-50%, -50%) rotate(45deg);
  width: 22px;
}

.end:focus-visible,
.end:hover {
  background: rgb(255 213 138 / 70%);
  outline: 2px solid #2a211d;
}

.told {
  align-items: center;
  background: var(--sheet);
  border-top: 1px solid var(--edge);
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  justify-content: center;
  padding: 8px 12px;
}
</style>
