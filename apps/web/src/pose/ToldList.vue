<script setup lang="ts">
import { PhTrash } from '@phosphor-icons/vue';
import { computed } from 'vue';
import { kindOf, type EditRecord } from '@merry-shadow/core/edits/registry';
import { withoutRecords } from '@merry-shadow/core/edits/take-edits';
import { nameWords } from '@merry-shadow/core/motion/name-words';
import IconButton from '../shell/IconButton.vue';
import { useOpenTake } from '../take/open-take';

/** What the person told to the solve: marks and depths, in the order of their frames. */
const { work, firstObserved, goTo } = useOpenTake();
const TOLD: readonly EditRecord['kind'][] = ['moved-mark', 'hidden-mark', 'depth-hint'];
const frameOf = (record: EditRecord): number => kindOf(record).span(record)?.[0] ?? 0;
const told = computed(() =>
  work.edits.value.records.filter(({ kind }) => TOLD.includes(kind)).sort((a, b) => frameOf(a) - frameOf(b)),
);
/** "left wrist, depth". */
function words(record: EditRecord): string {
  if (record.kind !== 'moved-mark' && record.kind !== 'hidden-mark' && record.kind !== 'depth-hint') return '';
  const what = { 'moved-mark': 'moved', 'hidden-mark': 'hidden', 'depth-hint': 'depth' }[record.kind];
  return `${nameWords(record.mark)}, ${what}`;
}
const remove = ({ id }: EditRecord): void =>
  work.changeEdits(
    'take back what was told',
    withoutRecords(work.edits.value, (record) => record.id === id),
  );
</script>

<template>
  <template v-if="told.length > 0">
    <h2>Told to the solve</h2>
    <ul class="cards">
      <li v-for="record in told" :key="record.id" class="card">
        <el-button text class="go" @click="goTo(frameOf(record) + firstObserved)"
          >{{ words(record) }}<span class="number quiet">frame {{ frameOf(record) + firstObserved }}</span></el-button
        >
        <IconButton :icon="PhTrash" :label="`Take back: ${words(record)}`" @click="remove(record)" />
      </li>
    </ul>
  </template>
</template>

<style scoped>
.card {
  align-items: center;
  display: flex;
}

.go {
  flex: 1;
  justify-content: flex-start;
  margin: 0;
  padding: 2px 8px;
}

.go .number {
  font-weight: 400;
  margin-left: 8px;
}
</style>
