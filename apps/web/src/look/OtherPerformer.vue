<script setup lang="ts">
import { onUnmounted, shallowRef, watch } from 'vue';
import { NO_EDITS, shiftEdits, type TakeEdits } from '@merry-shadow/core/edits/take-edits';
import type { Motion } from '@merry-shadow/core/motion/motion';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import type { TakeView } from '@merry-shadow/contracts/take';
import { fetchSolved, fetchTake } from '../api/client';
import { useEvaluation } from '../take/evaluation';

/** Somebody else who was captured in the same frames: tells their motion, with what was laid over it. Shows nothing itself. */
const props = defineProps<{
  take: TakeView;
  /** Changes whenever the motion may have become another one. */
  madeFrom: string;
}>();
const emit = defineEmits<{ moves: [id: string, motion: Motion | null] }>();
const solved = shallowRef<SolvedTake | null>(null);
const edits = shallowRef<TakeEdits>(NO_EDITS);
const { evaluated } = useEvaluation(solved, edits, false);

watch(
  () => props.madeFrom,
  async (_, __, onCleanup) => {
    const newer = new AbortController();
    onCleanup(() => newer.abort());
    const { id, captured } = props.take;
    try {
      const [work, motion] = await Promise.all([fetchTake(id), fetchSolved(id, newer.signal)]);
      if (newer.signal.aborted) return;
      edits.value = shiftEdits(work.edits, -(captured?.fromFrame ?? 0));
      solved.value = motion;
    } catch {
      // Who can't be solved does not stand beside; why, is said where their own take is open.
      if (!newer.signal.aborted) solved.value = null;
    }
  },
  { immediate: true },
);
watch(evaluated, (now) => emit('moves', props.take.id, now?.motion ?? null));
onUnmounted(() => emit('moves', props.take.id, null));
</script>

<template><span hidden></span></template>
