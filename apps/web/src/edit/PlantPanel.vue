<script setup lang="ts">
import { PhTrash } from '@phosphor-icons/vue';
import { nanoid } from 'nanoid';
import { computed, nextTick, ref, watch } from 'vue';
import { PlantRecord } from '@merry-shadow/core/edits/kinds/plant-record';
import { withPlant } from '@merry-shadow/core/edits/plants-of';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import { PART_WORDS, PLANTED_PARTS, type Plant, type PlantedPart } from '@merry-shadow/core/ground/plants';
import NumberRow from '../shell/NumberRow.vue';
import AddMenu from '../shell/AddMenu.vue';
import IconButton from '../shell/IconButton.vue';
import { plural } from '../shell/words';
import SpanRows from './SpanRows.vue';
import { useOpenTake } from '../take/open-take';

/** Plants hold feet and hands where they stand: those that were found, with what a person did to them, and their own. */
const { work, plants, selected, frame, solved } = useOpenTake();
/** Frames of a new plant to either side of the shown frame. */
const HALF = 8;
const PARTS = PLANTED_PARTS.map((name) => ({ name, title: PART_WORDS[name] }));
const card = ref<HTMLDivElement>();
const plant = computed(() => plants.value.find(({ id }) => id === selected.value));
const frames = computed(() => solved.value?.motion.frames ?? 1);
const changed = computed(() => recordsOf(work.edits.value.records, 'found-plant').length);
const own = computed(() => recordsOf(work.edits.value.records, 'plant').length);
const words = computed(() => {
  const { foundPlants } = work.edits.value;
  const parts = [
    foundPlants ? `${plants.value.length - own.value} found` : 'those found are left out',
    foundPlants && changed.value > 0 ? `${plural(changed.value, 'of them', 'of them')} changed by you` : '',
    own.value > 0 ? `${own.value} set by you` : '',
  ];
  return `${parts.filter(Boolean).join(', ')}. Drag their ends on the strip, or choose one there.`;
});
watch(selected, (now) => now !== null && void nextTick(() => card.value?.scrollIntoView({ block: 'nearest' })), {
  immediate: true,
});

const change = (label: string, fields: Partial<Plant> | null): void => {
  if (selected.value !== null)
    work.changeEdits(label, withPlant(work.edits.value, plants.value, selected.value, fields));
};

function add(part: PlantedPart): void {
  const at = Math.max(0, Math.min(frame.value, frames.value - 1));
  const from = Math.max(0, at - HALF);
  const until = Math.min(frames.value, at + HALF);
  const record = PlantRecord.parse({ kind: 'plant', id: nanoid(10), part, from, until });
  work.changeEdits(`plant the ${PART_WORDS[part]}`, {
    ...work.edits.value,
    records: [...work.edits.value.records, record],
  });
  selected.value = record.id;
}

/** Those that were found, as they were found. */
function takeFound(): void {
  const records = work.edits.value.records.filter(({ kind }) => kind !== 'found-plant' && kind !== 'plant');
  work.changeEdits('take the found plants', { ...work.edits.value, foundPlants: true, records });
}

function leaveFound(): void {
  work.changeEdits('leave the found plants out', { ...work.edits.value, foundPlants: false });
}
</script>

<template>
  <h2>Plants</h2>
  <p class="hint quiet">{{ words }}</p>
  <div class="found">
    <el-button v-if="changed + own > 0 || !work.edits.value.foundPlants" size="small" @click="takeFound"
      >Take those found</el-button
    >
    <el-button v-if="work.edits.value.foundPlants" size="small" @click="leaveFound">Leave out those found</el-button>
  </div>
  <div v-if="plant" ref="card" class="card" data-testid="plant">
    <div class="row">
      <strong>{{ PART_WORDS[plant.part] }}</strong>
      <IconButton :icon="PhTrash" label="Remove this plant" title="Delete" @click="change('remove plant', null)" />
    </div>
    <SpanRows
      :from="plant.from"
      :until="plant.until"
      :frames="frames"
      of="of the plant"
      @change="(fields) => change('move plant', fields)"
    />
    <NumberRow
      title="Ease"
      label="Frames of ease at each end"
      unit="frames"
      :value="plant.ease"
      :min="0"
      :max="60"
      :step="1"
      :precision="0"
      @change="(value) => change('change ease of plant', { ease: value ?? 3 })"
    />
  </div>
  <AddMenu title="Plant at this frame" :items="PARTS" @add="(part) => add(part as PlantedPart)" />
</template>

<style scoped>
.found {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}

.found .el-button + .el-button {
  margin: 0;
}

.card {
  display: flex;
  flex-direction: column;
  gap: 6px;
  padding: 6px 8px 8px;
}

.row {
  align-items: center;
  display: flex;
  justify-content: space-between;
}
</style>
