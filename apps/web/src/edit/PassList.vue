<script setup lang="ts">
import { nanoid } from 'nanoid';
import { computed, ref } from 'vue';
import { PassRecord } from '@merry-shadow/core/edits/kinds/pass-record';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import { passNamed, PASSES } from '@merry-shadow/core/passes/registry';
import AddMenu from '../shell/AddMenu.vue';
import { useSorted } from '../shell/use-sorted';
import { useOpenTake } from '../take/open-take';
import PassCard from './PassCard.vue';

/** The list of passes: they run in order, and are dragged into another one. */
const { work, frame, solved } = useOpenTake();
const open = ref<string | null>(null);
const list = ref<HTMLOListElement>();
const passes = computed(() => recordsOf(work.edits.value.records, 'pass'));
const frames = computed(() => solved.value?.motion.frames ?? 1);
const here = computed(() => Math.max(0, Math.min(frame.value, frames.value - 1)));

function set(label: string, next: readonly PassRecord[]): void {
  const others = work.edits.value.records.filter(({ kind }) => kind !== 'pass');
  work.changeEdits(label, { ...work.edits.value, records: [...next, ...others] });
}

const title = ({ pass }: Pick<PassRecord, 'pass'>): string => passNamed(pass).title.toLowerCase();

function add(pass: string): void {
  const record = PassRecord.parse({ kind: 'pass', id: nanoid(10), pass });
  open.value = record.id;
  set(`add ${title(record)}`, [...passes.value, record]);
}

function replace(record: PassRecord, next: PassRecord): void {
  const what = next.muted === record.muted ? 'change' : next.muted ? 'leave out' : 'use';
  set(
    `${what} ${title(record)}`,
    passes.value.map((item) => (item.id === record.id ? next : item)),
  );
}

function remove(record: PassRecord): void {
  set(
    `remove ${title(record)}`,
    passes.value.filter(({ id }) => id !== record.id),
  );
}

function move(from: number, to: number): void {
  const next = [...passes.value];
  const [record] = next.splice(from, 1);
  if (!record || from === to) return;
  next.splice(to, 0, record);
  set(`move ${title(record)}`, next);
}

useSorted(list, move);
</script>

<template>
  <h2>Passes</h2>
  <p v-if="passes.length === 0" class="hint quiet">
    Nothing is laid over the motion yet. Passes run in order; the tracked motion itself stays as it is.
  </p>
  <ol v-else ref="list" class="cards">
    <PassCard
      v-for="(record, i) in passes"
      :key="record.id"
      :step="record"
      :number="i + 1"
      :count="passes.length"
      :open="open === record.id"
      :frame="here"
      :frames="frames"
      @change="(next) => replace(record, { ...record, ...next })"
      @remove="remove(record)"
      @move="(by) => move(i, i + by)"
      @toggle="open = open === record.id ? null : record.id"
    />
  </ol>
  <AddMenu title="Add a pass" :items="PASSES.filter(({ timing }) => !timing)" @add="add" />
</template>

<style scoped></style>
