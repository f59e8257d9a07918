<script setup lang="ts">
import { computed } from 'vue';
import ChoiceRow from '../shell/ChoiceRow.vue';
import { DEFAULT_FIELD_OF_VIEW } from '@merry-shadow/core/camera/pinhole';

/** What somebody filmed with, in their own words, for the field of view that they hardly know. */
const props = defineProps<{
  /** Degrees across the long side of the picture; null when nobody has said. */
  value: number | null;
  /** What the file says of the lens, degrees. */
  lens: number | null;
}>();
const emit = defineEmits<{ change: [value: number | null] }>();

/** Usual fields of view of moving pictures in a shape of 16 : 9, degrees across the long side. */
const LENSES = [
  { title: 'Phone, main camera', view: 65 },
  { title: 'Phone, wide camera', view: 104 },
  { title: 'Phone, long camera', view: 27 },
  { title: 'Phone, camera on the screen’s side', view: 72 },
  { title: 'Webcam or laptop', view: 62 },
  { title: 'Camera with a standard lens', view: 40 },
] as const;
const OTHER = 'other';
const UNKNOWN = 'unknown';

const chosen = computed(() => {
  if (props.value === null) return UNKNOWN;
  return LENSES.find(({ view }) => view === props.value)?.title ?? OTHER;
});
const unknown = computed(() =>
  props.lens === null ? `Not known: ${DEFAULT_FIELD_OF_VIEW}° is taken` : `As the file says: ${props.lens.toFixed(0)}°`,
);

const choices = computed(() => [
  { value: UNKNOWN, title: unknown.value },
  ...LENSES.map(({ title, view }) => ({ value: title, title, note: `${view}°` })),
  ...(chosen.value === OTHER ? [{ value: OTHER, title: 'Another lens' }] : []),
]);

function choose(title: string): void {
  if (title === UNKNOWN) return emit('change', null);
  const lens = LENSES.find((item) => item.title === title);
  if (lens) emit('change', lens.view);
}
</script>

<template>
  <ChoiceRow title="Filmed with" :value="chosen" :choices="choices" @change="choose" />
</template>
