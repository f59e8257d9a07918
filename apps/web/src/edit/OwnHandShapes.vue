<script setup lang="ts">
import { PhTrash } from '@phosphor-icons/vue';
import { ElMessageBox } from 'element-plus';
import { computed } from 'vue';
import { hasFingers, SIDES, type Side } from '@merry-shadow/core/motion/humanoid';
import { OwnHandShape, shapeAt } from '@merry-shadow/core/passes/shape-hand';
import { addHandShape, removeHandShape } from '../api/client';
import ChoiceRow from '../shell/ChoiceRow.vue';
import IconButton from '../shell/IconButton.vue';
import { attempt } from '../shell/trouble';
import { useProduction } from '../stores/production';
import { useOpenTake } from '../take/open-take';

/** Shapes of a hand of one's own: kept from the shown frame, for all takes, and used in the place of the ready one. */
const props = defineProps<{ options: Record<string, unknown> }>();
const emit = defineEmits<{ change: [options: Record<string, unknown>] }>();
const { shown, frame, firstObserved } = useOpenTake();
const production = useProduction();
const own = computed(() => OwnHandShape.safeParse(props.options.own).data ?? null);
const kept = computed(() => production.handShapes.find(({ name }) => name === own.value?.name));
const NONE = '';
/** The one in use is there, too, when it is kept no longer. */
const all = computed<readonly OwnHandShape[]>(() =>
  own.value && !kept.value ? [...production.handShapes, own.value] : production.handShapes,
);
const choices = computed(() => [
  { value: NONE, title: 'the ready one' },
  ...all.value.map(({ name }) => ({ value: name, title: name })),
]);
const fingered = computed(() => shown.value !== null && hasFingers(shown.value.motion.skeleton));

function use(name: string): void {
  const shape = all.value.find((one) => one.name === name);
  emit('change', { ...props.options, own: shape && { name, angles: shape.angles } });
}

async function keep(side: Side): Promise<void> {
  const motion = shown.value?.motion;
  if (!motion) return;
  const at = Math.max(0, Math.min(frame.value, motion.frames - 1));
  const shape = shapeAt(motion, side, at, `${side} hand of frame ${at + firstObserved.value}`);
  const answer = await ElMessageBox.prompt('How this shape shall be called:', 'Keep a hand shape', {
    inputValue: shape.name,
    inputValidator: (text) => OwnHandShape.shape.name.safeParse(text).success || 'A name has 1 to 80 characters.',
    confirmButtonText: 'Keep',
    cancelButtonText: 'Cancel',
  }).catch(() => null);
  if (!answer) return;
  const named = { ...shape, name: answer.value.trim() };
  await attempt(() => addHandShape(named));
  emit('change', { ...props.options, own: named });
}

async function forget(): Promise<void> {
  const { value: shape } = kept;
  if (shape) await attempt(() => removeHandShape(shape.id));
  emit('change', { ...props.options, own: undefined });
}
</script>

<template>
  <ChoiceRow v-if="all.length > 0" title="Or your own" :value="own?.name ?? NONE" :choices="choices" @change="use" />
  <div v-if="fingered" class="keep">
    <el-button v-for="side in SIDES" :key="side" text size="small" @click="keep(side)"
      >Keep the {{ side }} hand</el-button
    >
    <IconButton v-if="own" :icon="PhTrash" :label="`Forget ${own.name}`" @click="forget" />
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
