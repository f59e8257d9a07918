<script setup lang="ts">
import { nanoid } from 'nanoid';
import { computed } from 'vue';
import type { TimingRecord } from '@merry-shadow/core/edits/kinds/timing-record';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import { passNamed, PASSES } from '@merry-shadow/core/passes/registry';
import AddMenu from '../shell/AddMenu.vue';
import { useOpenTake } from '../take/open-take';
import PassOptions from './PassOptions.vue';
import RecordButtons from './RecordButtons.vue';

/** Changes of the timing. They come after all else, and show in what is exported. */
const { work } = useOpenTake();
const timing = computed(() => recordsOf(work.edits.value.records, 'timing'));
const title = ({ pass }: Pick<TimingRecord, 'pass'>): string => passNamed(pass).title;

function set(label: string, next: readonly TimingRecord[]): void {
  const others = work.edits.value.records.filter(({ kind }) => kind !== 'timing');
  work.changeEdits(label, { ...work.edits.value, records: [...others, ...next] });
}

function add(pass: string): void {
  const record = { kind: 'timing' as const, id: nanoid(10), muted: false, pass, options: {} };
  set(`add ${title(record).toLowerCase()}`, [...timing.value, record]);
}

function replace(record: TimingRecord, change: Partial<TimingRecord>): void {
  set(
    `change ${title(record).toLowerCase()}`,
    timing.value.map((item) => (item === record ? { ...record, ...change } : item)),
  );
}

function remove(record: TimingRecord): void {
  set(
    `remove ${title(record).toLowerCase()}`,
    timing.value.filter((item) => item !== record),
  );
}
</script>

<template>
  <h2>Timing</h2>
  <p v-if="timing.length === 0" class="hint quiet">
    As it was filmed. What changes the timing counts last, in what is exported.
  </p>
  <div v-for="record in timing" :key="record.id" class="card" :class="{ muted: record.muted }">
    <div class="row">
      <strong>{{ title(record) }}</strong>
      <RecordButtons
        :title="title(record)"
        :muted="record.muted"
        @mute="(muted) => replace(record, { muted })"
        @remove="remove(record)"
      />
    </div>
    <PassOptions :pass="record.pass" :options="record.options" @change="(options) => replace(record, { options })" />
  </div>
  <AddMenu title="Change the timing" :items="PASSES.filter(({ timing: changes }) => changes)" @add="add" />
</template>

<style scoped>
.card {
  display: flex;
  flex-direction: column;
  gap: 6px;
  padding: 4px 8px 8px;
}

.muted strong {
  color: var(--ink-faint);
  text-decoration: line-through;
}

.row {
  align-items: center;
  display: flex;
}

.row strong {
  flex: 1;
}
</style>
