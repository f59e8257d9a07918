<script setup lang="ts">
import NumberRow from '../shell/NumberRow.vue';

/** The first and the last frame of a span, as a person counts them. */
defineProps<{
  /** Frames from … until − 1. */
  from: number;
  until: number;
  /** Frames that there are. */
  frames: number;
  /** What is added to a frame where it is shown. */
  first?: number;
  /** What the span is of, as it is read out: "of the plant". */
  of: string;
}>();
const emit = defineEmits<{ change: [fields: { from: number } | { until: number }] }>();
</script>

<template>
  <NumberRow
    title="From"
    :label="`First frame ${of}`"
    unit=""
    :value="from + (first ?? 0)"
    :min="first ?? 0"
    :max="until - 1 + (first ?? 0)"
    :step="1"
    :precision="0"
    @change="(value) => value !== null && emit('change', { from: value - (first ?? 0) })"
  />
  <NumberRow
    title="Until"
    :label="`Last frame ${of}`"
    unit=""
    :value="until - 1 + (first ?? 0)"
    :min="from + (first ?? 0)"
    :max="frames - 1 + (first ?? 0)"
    :step="1"
    :precision="0"
    @change="(value) => value !== null && emit('change', { until: value + 1 - (first ?? 0) })"
  />
</template>
