<script setup lang="ts">
import { PhCaretDown, PhCaretRight, PhListChecks } from '@phosphor-icons/vue';
import { useLocalStorage } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { LayerRecord } from '@merry-shadow/core/edits/kinds/layer-record';
import { withPlant, type HeldPlant } from '@merry-shadow/core/edits/plants-of';
import type { TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { movePose, type KeyPose } from '@merry-shadow/core/key-poses/key-poses';
import { moveKey } from '@merry-shadow/core/layers/layer';
import { useKeyPoses } from '../../pose/key-poses';
import { usePosing } from '../../pose/posing';
import IconButton from '../../shell/IconButton.vue';
import { useOpenTake } from '../../take/open-take';
import { withEndAt } from '../../play/in-out';
import StripCanvas from '../../play/StripCanvas.vue';
import { drawStrip } from './draw-strip';
import { faceRows } from './face-rows';
import { PLANT_ROW, type PlantEnd } from './plant-rows';
import {
  draggedPlant,
  HIDDEN_AT_FIRST,
  KEY_ROW,
  keyAt,
  plantAt,
  ROW,
  ROW_GROUPS,
  stripLayout,
  TOP,
  type KeyedRow,
  type RowGroup,
} from './strip-layout';

/** Time from left to right: what was seen, plants, passes and snags. Plants and the in and out point are dragged here. */
const open = useOpenTake();
const { take, facts, player, observations, firstObserved, plants, selected, cuts, time, work, evaluation } = open;
const frames = computed(() => facts.value?.frames ?? 1);

/** Whether all that was seen of the body lies in one row. */
const folded = useLocalStorage('merry-shadow.strip-folded', false);
/** Groups of rows that the person left out. */
const hidden = useLocalStorage<RowGroup[]>('merry-shadow.strip-hidden', [...HIDDEN_AT_FIRST]);
const groups = computed({
  get: () => ROW_GROUPS.filter((group) => !hidden.value.includes(group)),
  set: (shown) => (hidden.value = ROW_GROUPS.filter((group) => !shown.includes(group))),
});
const posing = usePosing();
const keyPoses = useKeyPoses();
/** The key that is being dragged, and where it is now. */
const heldKey = ref<{ row: KeyedRow; from: number; to: number } | null>(null);
/** The layer that is keyed, with the key where it is dragged to. */
const keyed = computed<LayerRecord | null>(() => {
  const layer = posing.layer.value;
  const key = heldKey.value;
  return layer && key?.row === 'layers' ? { ...layer, keys: moveKey(layer.keys, key.from, key.to) } : layer;
});
/** Key poses, with the one that is dragged where it is now. */
const poses = computed<readonly KeyPose[]>(() => {
  const list = keyPoses.poses.value;
  const key = heldKey.value;
  return key?.row === 'poses' ? movePose(list, key.from, key.to) : list;
});

/** The plant that is being dragged, where the hand took it, and as it is now. */
const held = ref<{ plant: HeldPlant; end: PlantEnd; frame: number; draft: HeldPlant } | null>(null);
const dragging = ref<'head' | 'from' | 'until' | null>(null);
const draft = ref<[number, number] | null>(null);
const range = computed<[number, number]>(
  () => draft.value ?? [take.value?.fromFrame ?? 0, take.value?.untilFrame ?? 1],
);
/** Worked out only where they are shown. */
const faces = computed(() => {
  const motion = evaluation.evaluated.value?.motion;
  return motion && !hidden.value.includes('expressions') ? faceRows(motion) : [];
});
const content = computed(() => ({
  observations: observations.value,
  firstObserved: firstObserved.value,
  faces: faces.value,
  plants: plants.value.map((plant) => (held.value?.plant.id === plant.id ? held.value.draft : plant)),
  records: work.edits.value.records,
  snags: evaluation.snags.value ?? [],
  selected: selected.value,
  keyed: keyed.value,
  poses: poses.value,
  folded: folded.value,
  hidden: hidden.value,
}));
const layout = computed(() => stripLayout(content.value));

function draw(context: CanvasRenderingContext2D, token: (name: string) => string): void {
  drawStrip({
    context,
    token,
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

function press(x: number, y: number): void {
  const plant = plantAt(layout.value, content.value, time, x, y);
  if (plant) {
    selected.value = plant.plant.id;
    open.goTo(time.frameAt(x));
    held.value = { ...plant, frame: time.frameAt(x), draft: plant.plant };
    return;
  }
  const key = keyAt(layout.value, content.value, time, x, y);
  if (key !== null) {
    open.goTo(key.frame + firstObserved.value);
    heldKey.value = { row: key.row, from: key.frame, to: key.frame };
    return;
  }
  if (y >= TOP + layout.value.seen.length * ROW) selected.value = null;
  const [from, until] = range.value;
  const grip = y > TOP - 6 && y < TOP + 10;
  if (grip && Math.abs(x - time.xOf(from)) < 9) dragging.value = 'from';
  else if (grip && Math.abs(x - time.xOf(until)) < 9) dragging.value = 'until';
  else dragging.value = 'head';
  drag(time.frameAt(x));
}

function drag(frame: number): void {
  if (held.value) return dragPlant(frame);
  if (heldKey.value) {
    const most = (observations.value?.frames ?? frames.value) - 1;
    heldKey.value.to = Math.max(0, Math.min(most, frame - firstObserved.value));
    return;
  }
  if (!dragging.value) return;
  if (dragging.value === 'head') return open.goTo(frame);
  draft.value = withEndAt(range.value, dragging.value, frame, frames.value);
  open.goTo(dragging.value === 'from' ? draft.value[0] : draft.value[1] - 1);
}

/** The edits with the plant where it is dragged to. */
const moved = ({ plant, draft: { from, until } }: NonNullable<typeof held.value>): TakeEdits =>
  withPlant(work.edits.value, plants.value, plant.id, {
    ...(from !== plant.from && { from }),
    ...(until !== plant.until && { until }),
  });

function dragPlant(at: number): void {
  if (!held.value) return;
  const { plant, end, frame } = held.value;
  const most = observations.value?.frames ?? frames.value;
  const next = draggedPlant(plant, end, at - frame, most);
  if (next.from === held.value.draft.from && next.until === held.value.draft.until) return;
  held.value = { ...held.value, draft: next };
  // What is looked at follows while the hand moves.
  evaluation.drag(moved(held.value), open.frame.value);
}

function release(): void {
  const plant = held.value;
  if (heldKey.value) {
    const { row, from, to } = heldKey.value;
    if (from !== to && row === 'poses') keyPoses.change('move key pose', { poses: [...poses.value] });
    else if (from !== to && keyed.value) posing.changeLayer('move key', keyed.value);
    heldKey.value = null;
  } else if (plant) {
    held.value = null;
    if (plant.draft.from !== plant.plant.from || plant.draft.until !== plant.plant.until)
      work.changeEdits('move plant', moved(plant));
    else evaluation.drag(null, 0);
  } else if (draft.value) open.setRange(...draft.value);
  dragging.value = null;
  draft.value = null;
}
</script>

<template>
  <div class="strip">
    <div class="titles" :style="{ paddingTop: `${TOP - 1}px` }">
      <IconButton
        class="fold"
        :icon="folded ? PhCaretRight : PhCaretDown"
        :label="folded ? 'Show a row for each part that was seen' : 'Show what was seen in one row'"
        :pressed="!folded"
        @click="folded = !folded"
      />
      <el-popover trigger="click" placement="top-start" :width="150">
        <template #reference>
          <IconButton class="choose" :icon="PhListChecks" label="Choose the rows" />
        </template>
        <el-checkbox-group v-model="groups" class="groups" aria-label="Rows of the strip">
          <el-checkbox v-for="group in ROW_GROUPS" :key="group" :value="group" :label="group" />
        </el-checkbox-group>
      </el-popover>
      <span v-for="row in layout.seen" :key="row.title" :style="{ height: `${ROW}px`, color: `var(--${row.side})` }">{{
        row.title
      }}</span>
      <span v-for="{ row } in layout.faces" :key="row.group" :style="{ height: `${ROW}px` }">{{ row.group }}</span>
      <span
        v-for="{ row } in layout.plants"
        :key="row.title"
        class="planted"
        :style="{ height: `${PLANT_ROW}px`, color: `var(--${row.side})` }"
        >{{ row.title }}</span
      >
      <span v-if="layout.passes" :style="{ height: `${ROW}px`, color: 'var(--amber)' }">edits</span>
      <span v-if="layout.layers !== null" class="planted" :style="{ height: `${KEY_ROW}px`, color: 'var(--amber)' }"
        >layers</span
      >
      <span v-if="layout.poses !== null" class="planted" :style="{ height: `${KEY_ROW}px` }">key poses</span>
      <span v-if="layout.snags !== null" :style="{ height: `${ROW}px`, color: 'var(--berry)' }">snags</span>
    </div>
    <StripCanvas
      :player="player"
      :time="time"
      :frames="frames"
      :height="layout.height"
      :range="range"
      :held="held !== null || heldKey !== null || dragging !== null"
      :draw="draw"
      :content="[content, cuts, range]"
      hint="Wheel: nearer and farther. Shift and wheel: along."
      @press="press"
      @drag="drag"
      @release="release"
    />
  </div>
</template>

<style scoped>
.strip {
  display: grid;
  gap: 10px;
  grid-template-columns: 62px minmax(0, 1fr);
}

/* Over the seconds, where no title stands. */
.fold,
.choose {
  height: 16px;
  left: 0;
  min-width: 0;
  padding: 0;
  position: absolute;
  top: 1px;
  width: 20px;
}

.choose {
  left: 22px;
}

.groups {
  display: flex;
  flex-direction: column;
}

.titles {
  position: relative;
  display: flex;
  flex-direction: column;
  font-size: 11px;
  line-height: 10px;
  text-align: right;
}

.planted {
  line-height: 14px;
}
</style>
