<script setup lang="ts">
import { PhCaretDown, PhCaretUp, PhEye, PhEyeSlash, PhTrash } from '@phosphor-icons/vue';
import { computed } from 'vue';
import { BODY_PARTS, type BodyPart } from '@merry-shadow/core/motion/body-parts';
import { passNamed } from '@merry-shadow/core/passes/registry';
import type { PassStep } from '@merry-shadow/core/passes/run-passes';
import PassOptions from './PassOptions.vue';

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
const PART_TITLES: Record<BodyPart, string> = {
  root: 'path',
  trunk: 'trunk',
  head: 'head',
  leftArm: 'left arm',
  rightArm: 'right arm',
  leftHand: 'left hand',
  rightHand: 'right hand',
  leftLeg: 'left leg',
  rightLeg: 'right leg',
};

function togglePart(part: BodyPart): void {
  const now = props.step.parts ?? [...BODY_PARTS];
  const next = now.includes(part) ? now.filter((item) => item !== part) : [...now, part];
  set({ parts: next.length === BODY_PARTS.length || next.length === 0 ? null : next });
}

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
  <li class="card" :class="{ muted: step.muted }">
    <div class="head">
      <button type="button" class="title" :aria-expanded="open" @click="emit('toggle')">
        <span class="number">{{ number }}</span>{{ pass.title }}
      </button>
      <button
        type="button"
        :aria-label="step.muted ? `Use ${pass.title}` : `Leave ${pass.title} out`"
        :aria-pressed="!step.muted"
        @click="set({ muted: !step.muted })"
      >
        <PhEyeSlash v-if="step.muted" :size="16" /><PhEye v-else :size="16" />
      </button>
      <button type="button" :aria-label="`Remove ${pass.title}`" @click="emit('remove')"><PhTrash :size="16" /></button>
    </div>
    <p v-if="!open && step.range" class="span number">frames {{ step.range[0] }} to {{ step.range[1] - 1 }}</p>
    <div v-if="open" class="body">
      <p class="about">{{ pass.about }}</p>
      <PassOptions :pass="step.pass" :options="step.options" @change="(options) => set({ options })" />
      <template v-if="!pass.timing">
        <label class="row"
          >Strength
          <input
            type="range"
            min="0"
            max="100"
            step="5"
            :value="Math.round(step.strength * 100)"
            :aria-valuetext="`${Math.round(step.strength * 100)} %`"
            @change="set({ strength: Number(($event.target as HTMLInputElement).value) / 100 })"
          /><span class="number">{{ Math.round(step.strength * 100) }} %</span></label
        >
        <div class="row">
          <span class="number">{{
            step.range ? `Frames ${step.range[0]} to ${step.range[1] - 1}` : 'All frames'
          }}</span>
          <span class="tools">
            <button type="button" class="word" @click="startHere">from here</button>
            <button type="button" class="word" @click="endHere">to here</button>
            <button v-if="step.range" type="button" class="word" @click="set({ range: null })">whole</button>
          </span>
        </div>
        <div class="parts" role="group" aria-label="Parts of the body">
          <button
            v-for="part in BODY_PARTS"
            :key="part"
            type="button"
            :class="{ on: step.parts === null || step.parts.includes(part) }"
            :aria-pressed="step.parts === null || step.parts.includes(part)"
            @click="togglePart(part)"
          >
            {{ PART_TITLES[part] }}
          </button>
        </div>
      </template>
      <div class="row">
        <span></span>
        <span class="tools">
          <button type="button" :disabled="number === 1" aria-label="Earlier" @click="emit('move', -1)">
            <PhCaretUp :size="16" />
          </button>
          <button type="button" :disabled="number === count" aria-label="Later" @click="emit('move', 1)">
            <PhCaretDown :size="16" />
          </button>
        </span>
      </div>
    </div>
  </li>
</template>

<style scoped>
.card {
  background: var(--paper);
  border: 1px solid var(--edge);
  border-radius: 8px;
  list-style: none;
}

.muted .title {
  color: var(--ink-faint);
  text-decoration: line-through;
}

.head,
.row,
.tools {
  align-items: center;
  display: flex;
  gap: 6px;
}

.head {
  padding: 2px 6px 2px 2px;
}

.row {
  font-size: 14px;
  justify-content: space-between;
}

.row input {
  accent-color: var(--amber);
  flex: 1;
  min-width: 60px;
}

button {
  background: none;
  border: 0;
  border-radius: 5px;
  color: var(--ink-soft);
  cursor: pointer;
  display: inline-grid;
  font: 14px var(--font);
  padding: 4px;
  place-items: center;
}

button:hover:not(:disabled) {
  background: var(--amber-wash);
  color: var(--ink);
}

button:disabled {
  opacity: 0.35;
}

.title {
  color: var(--ink);
  display: flex;
  flex: 1;
  font-weight: 600;
  gap: 8px;
  justify-content: start;
  text-align: left;
}

.title .number {
  color: var(--ink-faint);
  min-width: 14px;
}

.word {
  white-space: nowrap;
  color: var(--amber);
  font-weight: 600;
}

.body {
  border-top: 1px solid var(--edge);
  display: flex;
  flex-direction: column;
  gap: 7px;
  padding: 8px;
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

.parts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}

.parts button {
  border: 1px solid var(--edge);
  border-radius: 999px;
  color: var(--ink-faint);
  font-size: 12px;
  padding: 1px 8px;
}

.parts .on {
  background: var(--sheet);
  border-color: var(--ink-soft);
  color: var(--ink);
}
</style>
