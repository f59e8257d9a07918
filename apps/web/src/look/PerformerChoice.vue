<script setup lang="ts">
import { computed } from 'vue';
import ChoiceRow from '../shell/ChoiceRow.vue';
import { useProduction } from '../stores/production';
import { useOpenTake } from '../take/open-take';

/** Who performs, of the production's performers: brings their height along. */
const { take, set } = useOpenTake();
const production = useProduction();
const NOBODY = 'nobody';
const choices = computed(() => [
  { value: NOBODY, title: 'not said' },
  ...production.performers.map(({ id, name, height }) => ({
    value: id,
    title: name,
    note: height ? `${height.toFixed(2)} m` : undefined,
  })),
]);
function choose(id: string): void {
  const performer = production.performer(id);
  if (!performer) return set('performed by nobody', { performedBy: null });
  set(`performed by ${performer.name}`, {
    performedBy: id,
    ...(performer.height !== null && { height: performer.height }),
  });
}
</script>

<template>
  <ChoiceRow
    v-if="take && production.performers.length"
    title="Performed by"
    :value="production.performer(take.settings.performedBy) ? (take.settings.performedBy ?? NOBODY) : NOBODY"
    :choices="choices"
    @change="choose"
  />
</template>
