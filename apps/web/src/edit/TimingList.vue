<script setup lang="ts">
import { PhEye, PhEyeSlash, PhPlus, PhTrash } from '@phosphor-icons/vue';
import { nanoid } from 'nanoid';
import { computed } from 'vue';
import type { TimingRecord } from '@merry-shadow/core/edits/kinds/timing-record';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import { passNamed, PASSES } from '@merry-shadow/core/passes/registry';
import { useOpenTake } from '../take/open-take';
import PassOptions from './PassOptions.vue';

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
  <div v-for="record in timing" :key="record.id" class="timing" :class="{ muted: record.muted }">
    <div class="row">
      <strong>{{ title(record) }}</strong>
      <el-button
        text
        size="small"
        :aria-label="record.muted ? `Use ${title(record)}` : `Leave ${title(record)} out`"
        :aria-pressed="!record.muted"
        @click="replace(record, { muted: !record.muted })"
        ><PhEyeSlash v-if="record.muted" :size="16" /><PhEye v-else :size="16"
      /></el-button>
      <el-button text size="small" :aria-label="`Remove ${title(record)}`" @click="remove(record)"
        ><PhTrash :size="16"
      /></el-button>
    </div>
    <PassOptions :pass="record.pass" :options="record.options" @change="(options) => replace(record, { options })" />
  </div>
  <el-dropdown trigger="click" @command="add">
    <el-button class="add"><PhPlus :size="16" />Change the timing</el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <template v-for="pass in PASSES" :key="pass.name">
          <el-dropdown-item v-if="pass.timing" :command="pass.name">{{ pass.title }}</el-dropdown-item>
        </template>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>

<style scoped>
@import './panel.css';

.timing {
  background: var(--paper);
  border: 1px solid var(--edge);
  border-radius: 8px;
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

.row .el-button {
  margin: 0;
  padding: 4px;
}
</style>
