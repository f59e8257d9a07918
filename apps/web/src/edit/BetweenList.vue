<script setup lang="ts">
import { nanoid } from 'nanoid';
import { computed } from 'vue';
import { BetweenRecord } from '@merry-shadow/core/edits/kinds/between-record';
import { useOpenTake } from '../take/open-take';
import { useOwnRecords } from './own-records';
import PartTags from './PartTags.vue';
import RecordButtons from './RecordButtons.vue';
import SpanRows from './SpanRows.vue';

/** Ranges that are thrown away and made anew from what is on both sides of them. Shown frames count as everywhere: in the clip. */
const { frame, solved, firstObserved } = useOpenTake();
/** Seconds of a new range to either side of the shown frame. */
const HALF = 0.2;
const { list: ranges, put, remove } = useOwnRecords('between');
const frames = computed(() => solved.value?.motion.frames ?? 1);
const title = (record: BetweenRecord): string =>
  `frames ${record.from + firstObserved.value} to ${record.until - 1 + firstObserved.value}`;

const change = (record: BetweenRecord, fields: Partial<BetweenRecord>): void =>
  put('change the range made anew', { ...record, ...fields });

function add(): void {
  const half = Math.max(1, Math.round(HALF * (solved.value?.motion.rate ?? 30)));
  const at = Math.max(0, Math.min(frame.value, frames.value - 1));
  const [from, until] = [Math.max(1, at - half), Math.min(frames.value - 1, at + half + 1)];
  const record = BetweenRecord.parse({ kind: 'between', id: nanoid(10), from, until: Math.max(until, from + 1) });
  put('make a range anew', record);
}
</script>

<template>
  <h2>Made anew</h2>
  <p v-if="ranges.length === 0" class="hint quiet">
    A bad range is thrown away and made anew from what is on both sides of it, all of it or some parts.
  </p>
  <ul v-else class="cards">
    <li v-for="record in ranges" :key="record.id" class="card" data-testid="between">
      <div class="head">
        <strong class="number">{{ title(record) }}</strong>
        <RecordButtons
          :title="title(record)"
          :muted="record.muted"
          @mute="(muted) => change(record, { muted })"
          @remove="remove('remove the range made anew', record)"
        />
      </div>
      <SpanRows
        :from="record.from"
        :until="record.until"
        :frames="frames"
        :first="firstObserved"
        of="made anew"
        @change="(fields) => change(record, fields)"
      />
      <PartTags :parts="record.parts" @change="(parts) => change(record, { parts })" />
    </li>
  </ul>
  <el-button class="add" @click="add">Make anew about this frame</el-button>
</template>

<style scoped>
.card {
  display: flex;
  flex-direction: column;
  gap: 6px;
  list-style: none;
  padding: 6px 8px 8px;
}

.head {
  align-items: center;
  display: flex;
}

.head strong {
  flex: 1;
  font-size: 14px;
}

.add {
  border-style: dashed;
}
</style>
