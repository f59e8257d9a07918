<script setup lang="ts">
import { PhArrowUUpLeft, PhArrowUUpRight, PhPlus, PhTrash } from '@phosphor-icons/vue';
import { computed, nextTick, ref, watch } from 'vue';
import { Plant, PLANTED_PARTS, type PlantedPart } from '@merry-shadow/core/ground/plants';
import { PASSES } from '@merry-shadow/core/passes/registry';
import { PassStep } from '@merry-shadow/core/passes/run-passes';
import NumberRow from '../look/NumberRow.vue';
import PassCard from './PassCard.vue';
import type { TakeEditor } from './take-editor';

/** What is laid over the captured motion: the list of passes, and the plants that hold feet and hands. */
const props = defineProps<{ editor: TakeEditor; frame: number; frames: number; selected: number | null }>();
const emit = defineEmits<{ select: [plant: number | null] }>();
const open = ref<number | null>(null);
const edits = computed(() => props.editor.edits.value);
const evaluated = computed(() => props.editor.evaluated.value);
const plants = computed(() => evaluated.value?.plants ?? []);
const plant = computed(() => (props.selected === null ? undefined : plants.value[props.selected]));
const card = ref<HTMLDivElement>();
watch(
  () => props.selected,
  (now) => now !== null && void nextTick(() => card.value?.scrollIntoView({ block: 'nearest' })),
  { immediate: true },
);
const PART_TITLES: Record<PlantedPart, string> = {
  leftHeel: 'left heel',
  leftToe: 'left ball',
  rightHeel: 'right heel',
  rightToe: 'right ball',
  leftHand: 'left hand',
  rightHand: 'right hand',
};

function setPasses(passes: PassStep[]): void {
  props.editor.change({ ...edits.value, passes });
}

function add(name: string): void {
  open.value = edits.value.passes.length;
  setPasses([...edits.value.passes, PassStep.parse({ pass: name })]);
}

function replace(index: number, step: PassStep): void {
  setPasses(edits.value.passes.map((item, i) => (i === index ? step : item)));
}

function remove(index: number): void {
  open.value = null;
  setPasses(edits.value.passes.filter((_, i) => i !== index));
}

function move(index: number, by: number): void {
  const passes = [...edits.value.passes];
  passes.splice(index + by, 0, ...passes.splice(index, 1));
  open.value = index + by;
  setPasses(passes);
}

function setPlants(next: Plant[] | null): void {
  props.editor.change({ ...edits.value, plants: next });
}

function changePlant(fields: Partial<Plant>): void {
  setPlants(plants.value.map((item, i) => (i === props.selected ? { ...item, ...fields } : item)));
}

function addPlant(part: PlantedPart): void {
  const half = 8;
  const from = Math.max(0, props.frame - half);
  setPlants([...plants.value, Plant.parse({ part, from, until: Math.min(props.frames, props.frame + half) })]);
  emit('select', plants.value.length);
}

function removePlant(): void {
  setPlants(plants.value.filter((_, i) => i !== props.selected));
  emit('select', null);
}
</script>

<template>
  <div class="undo">
    <button type="button" :disabled="!editor.canUndo.value" title="Ctrl Z" @click="editor.undo()">
      <PhArrowUUpLeft :size="17" />Undo
    </button>
    <button type="button" :disabled="!editor.canRedo.value" title="Ctrl Shift Z" @click="editor.redo()">
      <PhArrowUUpRight :size="17" />Redo
    </button>
  </div>
  <h2>Passes</h2>
  <p v-if="edits.passes.length === 0" class="hint quiet">
    Nothing is laid over the capture yet. Passes run in order; the capture itself stays as it is.
  </p>
  <ol v-else>
    <PassCard
      v-for="(step, i) in edits.passes"
      :key="i"
      :step="step"
      :number="i + 1"
      :count="edits.passes.length"
      :open="open === i"
      :frame="frame"
      :frames="frames"
      @change="(next) => replace(i, next)"
      @remove="remove(i)"
      @move="(by) => move(i, by)"
      @toggle="open = open === i ? null : i"
    />
  </ol>
  <el-dropdown trigger="click" max-height="340px" @command="add">
    <button type="button" class="add"><PhPlus :size="16" />Add a pass</button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-for="pass in PASSES" :key="pass.name" :command="pass.name">{{
          pass.title
        }}</el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
  <p v-if="editor.problem.value" class="trouble" role="alert">{{ editor.problem.value }}</p>

  <h2>Plants</h2>
  <p class="hint quiet">
    {{
      edits.plants === null
        ? `${plants.length} found. Drag their ends on the strip, or choose one there.`
        : `${plants.length}, changed by you.`
    }}
    <button v-if="edits.plants !== null" type="button" class="word" @click="setPlants(null)">Take those found</button>
  </p>
  <div v-if="plant" ref="card" class="plant" data-testid="plant">
    <div class="row">
      <strong>{{ PART_TITLES[plant.part] }}</strong>
      <button type="button" aria-label="Remove this plant" title="Delete" @click="removePlant">
        <PhTrash :size="16" />
      </button>
    </div>
    <NumberRow
      title="From"
      label="First frame of the plant"
      unit=""
      :value="plant.from"
      :min="0"
      :max="plant.until - 1"
      :step="1"
      :precision="0"
      @change="(value) => changePlant({ from: value ?? plant?.from })"
    />
    <NumberRow
      title="Until"
      label="Last frame of the plant"
      unit=""
      :value="plant.until - 1"
      :min="plant.from"
      :max="frames - 1"
      :step="1"
      :precision="0"
      @change="(value) => changePlant({ until: (value ?? (plant?.until ?? 1) - 1) + 1 })"
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
      @change="(value) => changePlant({ ease: value ?? 3 })"
    />
  </div>
  <el-dropdown trigger="click" @command="addPlant">
    <button type="button" class="add"><PhPlus :size="16" />Plant at this frame</button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-for="part in PLANTED_PARTS" :key="part" :command="part">{{
          PART_TITLES[part]
        }}</el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
  <p v-if="evaluated" class="hint quiet number">
    Evaluated in {{ evaluated.took.toFixed(0) }} ms. Exported: {{ evaluated.exported.frames }} frames at
    {{ Number(evaluated.exported.rate.toFixed(3)) }} frames/s.
  </p>
</template>

<style scoped>
h2 {
  font-size: 16px;
  margin: 8px 0 0;
}

ol {
  display: flex;
  flex-direction: column;
  gap: 6px;
  margin: 0;
  padding: 0;
}

button {
  align-items: center;
  background: none;
  border: 0;
  border-radius: 6px;
  color: var(--ink-soft);
  cursor: pointer;
  display: inline-flex;
  font: 14px var(--font);
  gap: 6px;
  padding: 4px 6px;
}

button:hover:not(:disabled) {
  background: var(--amber-wash);
  color: var(--ink);
}

button:disabled {
  opacity: 0.4;
}

.undo {
  display: flex;
  gap: 4px;
  margin-left: -6px;
}

.add {
  border: 1px dashed var(--edge);
  color: var(--ink);
  font-weight: 600;
  justify-content: center;
  width: 100%;
}

.word {
  color: var(--amber);
  font-weight: 600;
  padding: 0 2px;
}

.hint {
  font-size: 13px;
  margin: 0;
}

.trouble {
  color: var(--berry);
  margin: 0;
}

.plant {
  background: var(--paper);
  border: 1px solid var(--edge);
  border-radius: 8px;
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
