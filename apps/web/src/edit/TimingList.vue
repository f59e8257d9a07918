<script setup lang="ts">
import { nanoid } from 'nanoid';
import { computed, ref } from 'vue';
import { TimingRecord } from '@merry-shadow/core/edits/kinds/timing-record';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import { closeLoop } from '@merry-shadow/core/passes/close-loop';
import { passNamed, PASSES } from '@merry-shadow/core/passes/registry';
import { trim } from '@merry-shadow/core/passes/trim';
import AddMenu from '../shell/AddMenu.vue';
import { attempt } from '../shell/trouble';
import { useOpenTake } from '../take/open-take';
import PassOptions from './PassOptions.vue';
import RecordButtons from './RecordButtons.vue';

/** Changes of the timing. They come after all else, and show in what is exported. */
const { work, evaluation, firstObserved } = useOpenTake();
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

/** Cuts the take to the part that can best be played over and over, and closes it. */
const found = ref('');
async function loop(): Promise<void> {
  const motion = evaluation.evaluated.value?.motion;
  if (!motion) return;
  const cycle = await evaluation.findCycle(work.edits.value);
  if (!cycle) return void (found.value = 'The take is too short for a loop.');
  const { from, until, apart } = cycle;
  const { frames, rate } = motion;
  const seconds = (count: number): number => Number((count / rate).toFixed(4));
  // The frames that pass over into the beginning come after the cycle.
  const after = Math.min(frames, until + Math.round(Math.min(0.3 * rate, (until - from) / 3)));
  const step = (pass: string, options: Record<string, unknown>): TimingRecord =>
    TimingRecord.parse({ kind: 'timing', id: nanoid(10), pass, options });
  set('make a loop', [
    ...timing.value.filter(({ pass }) => pass !== trim.name && pass !== closeLoop.name),
    step(trim.name, { start: seconds(from), end: seconds(frames - after) }),
    step(closeLoop.name, { blend: Math.max(0.03, seconds(after - until)) }),
  ]);
  found.value = `Frames ${from + firstObserved.value} to ${until - 1 + firstObserved.value}: the end is ${(apart * 100).toFixed(1)} cm from the beginning in the mean.`;
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
  <el-button class="loop" @click="attempt(loop)">Find a loop</el-button>
  <p v-if="found" class="hint quiet number" role="status">{{ found }}</p>
</template>

<style scoped>
.card {
  display: flex;
  flex-direction: column;
  gap: 6px;
  padding: 4px 8px 8px;
}

.loop {
  margin-left: 8px;
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
