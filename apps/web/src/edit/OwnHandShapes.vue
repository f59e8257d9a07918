<script setup lang="ts">
import { PhTrash } from '@phosphor-icons/vue';
import { useLocalStorage } from '@vueuse/core';
import { computed } from 'vue';
import { hasFingers, SIDES, type Side } from '@merry-shadow/core/motion/humanoid';
import { OwnHandShape, shapeAt } from '@merry-shadow/core/passes/shape-hand';
import ChoiceRow from '../shell/ChoiceRow.vue';
import IconButton from '../shell/IconButton.vue';
import { useOpenTake } from '../take/open-take';

/** Shapes of a hand of one's own: kept from the shown frame, in this browser, and used in the place of the ready one. */
const props = defineProps<{ options: Record<string, unknown> }>();
const emit = defineEmits<{ change: [options: Record<string, unknown>] }>();
const { shown, frame, firstObserved } = useOpenTake();
const kept = useLocalStorage<OwnHandShape[]>('merry-shadow.hand-shapes', []);
const own = computed(() => OwnHandShape.safeParse(props.options.own).data ?? null);
const NONE = '';
const all = computed(() => {
  const here = own.value;
  return here && !kept.value.some(({ name }) => name === here.name) ? [...kept.value, here] : kept.value;
});
const choices = computed(() => [
  { value: NONE, title: 'the ready one' },
  ...all.value.map(({ name }) => ({ value: name, title: name })),
]);
const fingered = computed(() => shown.value !== null && hasFingers(shown.value.motion.skeleton));
const use = (shape?: OwnHandShape): void => emit('change', { ...props.options, own: shape });

function keep(side: Side): void {
  const motion = shown.value?.motion;
  if (!motion) return;
  const at = Math.max(0, Math.min(frame.value, motion.frames - 1));
  const name = `${side} hand of frame ${at + firstObserved.value}`;
  const shape = shapeAt(motion, side, at, name);
  kept.value = [...kept.value.filter((other) => other.name !== name), shape];
  use(shape);
}

function forget(name: string): void {
  kept.value = kept.value.filter((shape) => shape.name !== name);
  use();
}
</script>

<template>
  <ChoiceRow
    v-if="all.length > 0"
    title="Or your own"
    :value="own?.name ?? NONE"
    :choices="choices"
    @change="(name) => use(all.find((shape) => shape.name === name))"
  />
  <div v-if="fingered" class="keep">
    <el-button v-for="side in SIDES" :key="side" text size="small" @click="keep(side)"
      >Keep the {{ side }} hand</el-button
    >
    <IconButton v-if="own" :icon="PhTrash" :label="`Forget ${own.name}`" @click="forget(own.name)" />
  </div>
</template>

<style scoped>
.keep {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
}

.keep .el-button--small {
  color: var(--amber);
  margin: 0;
  padding: 4px;
}
</style>
