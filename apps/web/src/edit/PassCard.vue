<script setup lang="ts">
import { PhCaretDown, PhCaretUp, PhDotsSixVertical } from '@phosphor-icons/vue';
import { computed } from 'vue';
import { passNamed } from '@merry-shadow/core/passes/registry';
import { shapeHand } from '@merry-shadow/core/passes/shape-hand';
import type { PassStep } from '@merry-shadow/core/passes/run-passes';
import IconButton from '../shell/IconButton.vue';
import OwnHandShapes from './OwnHandShapes.vue';
import PartTags from './PartTags.vue';
import PassOptions from './PassOptions.vue';
import RecordButtons from './RecordButtons.vue';
import StrengthRow from './StrengthRow.vue';

/** One step of the list: what it does, how strongly, when and to which parts of the body. */
const props = defineProps<{
  step: PassStep;
  number: number;
  count: number;
  open: boolean;
  frame: number;
  frames: number;
}>();
const emit = defineEmits<{ change: [step: PassStep]; remove: []; move: [by: number]; toggle: [] }>();
const pass = computed(() => passNamed(props.step.pass));
const set = (fields: Partial<PassStep>): void => emit('change', { ...props.step, ...fields });
function startHere(): void {
  const until = props.step.range?.[1] ?? props.frames;
  set({ range: [props.frame, Math.max(until, props.frame + 1)] });
}

function endHere(): void {
  const from = props.step.range?.[0] ?? 0;
  set({ range: [Math.min(from, props.frame), props.frame + 1] });
}
</script>

<template>
  <li class="card edit-card" :class="{ muted: step.muted }">
    <div class="head">
      <PhDotsSixVertical class="grip" :size="18" weight="bold" aria-hidden="true" />
      <el-button text class="title" :aria-expanded="open" @click="emit('toggle')"
        ><span class="number">{{ number }}</span
        >{{ pass.title }}</el-button
      >
      <RecordButtons
        :title="pass.title"
        :muted="step.muted"
        @mute="(muted) => set({ muted })"
        @remove="emit('remove')"
      />
    </div>
    <p v-if="!open && step.range" class="span number">frames {{ step.range[0] }} to {{ step.range[1] - 1 }}</p>
    <div v-if="open" class="body">
      <p class="about">{{ pass.about }}</p>
      <PassOptions :pass="step.pass" :options="step.options" @change="(options) => set({ options })" />
      <OwnHandShapes
        v-if="pass.name === shapeHand.name"
        :options="step.options"
        @change="(options) => set({ options })"
      />
      <StrengthRow :value="step.strength" @change="(strength) => set({ strength })" />
      <div class="row">
        <span class="number">{{ step.range ? `Frames ${step.range[0]} to ${step.range[1] - 1}` : 'All frames' }}</span>
        <span class="tools">
          <el-button text size="small" @click="startHere">from here</el-button>
          <el-button text size="small" @click="endHere">to here</el-button>
          <el-button v-if="step.range" text size="small" @click="set({ range: null })">all</el-button>
        </span>
      </div>
      <PartTags :parts="step.parts" @change="(parts) => set({ parts })" />
      <div class="row">
        <span></span>
        <span class="tools">
          <IconButton :icon="PhCaretUp" label="Earlier" :disabled="number === 1" @click="emit('move', -1)" />
          <IconButton :icon="PhCaretDown" label="Later" :disabled="number === count" @click="emit('move', 1)" />
        </span>
      </div>
    </div>
  </li>
</template>

<style scoped>
.grip {
  color: var(--ink-faint);
  cursor: grab;
  flex: none;
}

.row,
.tools {
  align-items: center;
  display: flex;
  gap: 6px;
}

.row {
  font-size: 14px;
  justify-content: space-between;
}

.el-button {
  margin: 0;
  padding: 4px;
}

.title .number {
  color: var(--ink-faint);
  margin-right: 8px;
  min-width: 14px;
}

.tools .el-button--small {
  color: var(--amber);
}

.about,
.span {
  color: var(--ink-soft);
  font-size: 13px;
  margin: 0;
}

.span {
  padding: 0 8px 5px 30px;
}
</style>
