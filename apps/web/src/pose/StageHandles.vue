<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { quat, type vec3 } from 'gl-matrix';
import { computed, onUnmounted, shallowRef, watch } from 'vue';
import { Vector3 } from 'three';
import { handlesOf, type Handle } from '@merry-shadow/core/posing/handles';
import type { StageView } from '../look/stage/stage-view';
import { useOpenTake } from '../take/open-take';
import { usePosing } from './posing';
import { marksOf } from './told-depth';

/**
 * Handles over the stage: dragged, the limb or the body follows; a drag with Alt goes along the line of sight; the ring about the one that was picked
 * turns its joint about the line of sight. By keys: arrows move by a centimetre, Page Up and Page Down along the line of sight, Shift and arrows turn.
 */
const props = defineProps<{ stage: StageView }>();
const { shown } = useOpenTake();
const posing = usePosing();
const { picked } = posing;

interface Placed extends Handle {
  x: number;
  y: number;
  place: Vector3;
}
const placed = shallowRef<Placed[]>([]);
const handles = computed(() =>
  (shown.value ? handlesOf(shown.value.motion.skeleton) : []).filter(
    ({ joint }) => posing.makes.value === 'key' || marksOf(joint).length > 0,
  ),
);
function follow(): void {
  placed.value = handles.value.flatMap((handle) => {
    const at = props.stage.project(handle.joint);
    return at ? [{ ...handle, ...at }] : [];
  });
}
onUnmounted(props.stage.onDraw(follow));
watch(handles, follow, { immediate: true });

const side = ({ joint }: Handle): string =>
  joint.startsWith('left') ? 'left' : joint.startsWith('right') ? 'right' : 'middle';
/** About what can be turned. */
const ring = computed(() =>
  posing.makes.value === 'key' ? placed.value.find(({ joint }) => joint === picked.value) : undefined,
);

/** What the pointer holds, where it took it, and where that was. */
let held: {
  joint: string;
  way: 'move' | 'turn';
  x: number;
  y: number;
  place: Vector3;
  centre: [number, number];
} | null = null;
/** Metres along the line of sight for a pixel, with Alt. */
const AWAY = 0.004;

function press(event: PointerEvent, handle: Placed, way: 'move' | 'turn'): void {
  if (event.button !== 0) return;
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  if (!posing.grip(handle.joint, way)) return;
  const box = (event.currentTarget as Element).closest('.handles')?.getBoundingClientRect();
  held = {
    joint: handle.joint,
    way,
    x: event.clientX,
    y: event.clientY,
    place: handle.place.clone(),
    centre: [handle.x + (box?.left ?? 0), handle.y + (box?.top ?? 0)],
  };
}

function move(event: PointerEvent): void {
  if (!held) return;
  const [dx, dy] = [event.clientX - held.x, event.clientY - held.y];
  if (held.way === 'turn') {
    const angle = (x: number, y: number): number => Math.atan2(y - held!.centre[1], x - held!.centre[0]);
    turn(held.joint, held.place, angle(event.clientX, event.clientY) - angle(held.x, held.y));
  } else if (posing.makes.value === 'depth') along(held.joint, held.place, dx, dy);
  else if (event.altKey) drag(held.joint, props.stage.movedBy(held.place, 0, 0, -dy * AWAY));
  else drag(held.joint, props.stage.movedBy(held.place, dx, dy));
}

function release(): void {
  if (!held) return;
  held = null;
  posing.end();
}
useEventListener('keydown', (event) => {
  if (event.key !== 'Escape' || !held) return;
  held = null;
  posing.cancel();
});

const drag = (joint: string, place: Vector3): void => posing.drag(joint, place.toArray() as vec3);

/** Brings a joint nearer to the camera that filmed, or farther away. @param by metres; told by the pointer's way if left out. */
function along(joint: string, place: Vector3, dx: number, dy: number, by?: number): void {
  const [x, y, z] = posing.cameraAxis() ?? [0, 0, 1];
  const axis = new Vector3(x, y, z);
  drag(joint, place.clone().addScaledVector(axis, by ?? props.stage.movedAlong(place, axis, dx, dy)));
}

/** Turns a joint about the line of sight. @param by radians, clockwise on the screen. */
function turn(joint: string, place: Vector3, by: number): void {
  posing.turn(joint, quat.setAxisAngle(quat.create(), props.stage.sightTo(place).toArray() as vec3, by));
}

/** A step by keys: pixels to the right and down, metres away. */
const STEPS: Record<string, readonly [number, number, number]> = {
  ArrowLeft: [-1, 0, 0],
  ArrowRight: [1, 0, 0],
  ArrowUp: [0, -1, 0],
  ArrowDown: [0, 1, 0],
  PageUp: [0, 0, 0.01],
  PageDown: [0, 0, -0.01],
};
const CENTIMETRE = 0.01;
const TURN = (2 * Math.PI) / 180;

function key(event: KeyboardEvent, { joint, place }: Placed): void {
  const step = STEPS[event.key];
  if (!step || event.ctrlKey || event.metaKey || event.altKey) return;
  event.preventDefault();
  event.stopPropagation();
  const turns = event.shiftKey && step[0] !== 0 && posing.makes.value === 'key';
  if (!posing.grip(joint, turns ? 'turn' : 'move')) return;
  if (turns) turn(joint, place, step[0] * TURN);
  else if (posing.makes.value === 'depth') along(joint, place, 0, 0, step[2] === 0 ? -step[1] * CENTIMETRE : -step[2]);
  else {
    const far = props.stage.movedBy(place, 1, 0).distanceTo(place);
    const pixels = CENTIMETRE / Math.max(1e-6, far);
    drag(joint, props.stage.movedBy(place, step[0] * pixels, step[1] * pixels, step[2]));
  }
  posing.end();
}
</script>

<template>
  <div
    class="handles"
    role="group"
    aria-label="Handles on the figure"
    @pointermove="move"
    @pointerup="release"
    @pointercancel="release"
  >
    <svg v-if="ring" class="ring" :style="{ left: `${ring.x}px`, top: `${ring.y}px` }" viewBox="-40 -40 80 80">
      <circle r="31" class="line" />
      <circle
        r="31"
        class="grip"
        :aria-label="`Turn the ${ring.title}`"
        role="img"
        @pointerdown="press($event, ring, 'turn')"
      />
      <path d="M -6 -31 L 6 -31 M 0 -36 L 0 -26" class="mark" />
    </svg>
    <button
      v-for="handle in placed"
      :key="handle.joint"
      type="button"
      class="handle"
      :class="[`of-${side(handle)}`, handle.kind, { picked: handle.joint === picked }]"
      :style="{ left: `${handle.x}px`, top: `${handle.y}px` }"
      :aria-label="handle.title"
      :aria-pressed="handle.joint === picked"
      :title="`${handle.title}: drag; with Alt nearer and farther`"
      @pointerdown="press($event, handle, 'move')"
      @focus="picked = handle.joint"
      @keydown="key($event, handle)"
    ></button>
  </div>
</template>

<style scoped>
.handles {
  inset: 0;
  overflow: hidden;
  pointer-events: none;
  position: absolute;
}

/* Paper slips pinned to the figure: upright on limbs, lying on the trunk. */
.handle {
  background: var(--sheet);
  border: 2px solid var(--middle);
  border-radius: 3px;
  box-shadow: 0 1px 3px rgb(0 0 0 / 35%);
  cursor: grab;
  height: 13px;
  margin: -7px 0 0 -5px;
  padding: 0;
  pointer-events: auto;
  position: absolute;
  touch-action: none;
  width: 10px;
}

/* A wider place to take hold of than what is drawn. */
.handle::before {
  content: '';
  inset: -7px;
  position: absolute;
}

.of-left {
  border-color: var(--left);
}

.of-right {
  border-color: var(--right);
}

.middle {
  height: 8px;
  margin: -4px 0 0 -4px;
  opacity: 0.85;
  width: 8px;
}

.root,
.bend {
  height: 9px;
  margin: -5px 0 0 -9px;
  width: 18px;
}

.of-left.bend,
.of-right.bend {
  margin-left: -5px;
  width: 10px;
}

.handle:hover,
.handle:focus-visible,
.handle.picked {
  background: var(--amber-glow);
  outline: 2px solid var(--amber);
  outline-offset: 1px;
}

.handle:active {
  cursor: grabbing;
}

.ring {
  height: 80px;
  margin: -40px 0 0 -40px;
  overflow: visible;
  position: absolute;
  width: 80px;
}

.ring circle,
.ring path {
  fill: none;
}

.ring .line {
  stroke: var(--amber);
  stroke-dasharray: 2 5;
  stroke-linecap: round;
  stroke-width: 2.5;
}

.ring .grip {
  cursor: grab;
  pointer-events: stroke;
  stroke: transparent;
  stroke-width: 12;
  touch-action: none;
}

.ring .mark {
  stroke: var(--amber);
  stroke-width: 2;
}
</style>
