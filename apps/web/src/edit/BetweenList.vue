<script setup lang="ts">
import { nanoid } from 'nanoid';
import { computed } from 'vue';
import { BetweenRecord } from '@merry-shadow/core/edits/kinds/between-record';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import NumberRow from '../shell/NumberRow.vue';
import { useOpenTake } from '../take/open-take';
import PartTags from './PartTags.vue';
import RecordButtons from './RecordButtons.vue';

/** Ranges that are thrown away and made anew from what is on both sides of them. Shown frames count as everywhere: in the clip. */
const { work, frame, solved, firstObserved } = useOpenTake();
/** Seconds of a new range to either side of the shown frame. */
const HALF = 0.2;
const ranges = computed(() => recordsOf(work.edits.value.records, 'between'));
const frames = computed(() => solved.value?.motion.frames ?? 1);
const title = (record: BetweenRecord): string =>
  `frames ${record.from + firstObserved.value} to ${record.until - 1 + firstObserved.value}`;

const set = (label: string, records: readonly BetweenRecord[]): void => {
  const others = work.edits.value.records.filter(({ kind }) => kind !== 'between');
  work.changeEdits(label, { ...work.edits.value, records: [...others, ...records] });
};
const change = (record: BetweenRecord, fields: Partial<BetweenRecord>): void =>
  set(
    'change the range made anew',
    ranges.value.map((item) => (item === record ? { ...item, ...fields } : item)),
  );

function add(): void {
  const half = Math.max(1, Math.round(HALF * (solved.value?.motion.rate ?? 30)));
  const at = Math.max(0, Math.min(frame.value, frames.value - 1));
  const [from, until] = [Math.max(1, at - half), Math.min(frames.value - 1, at + half + 1)];
  const record = BetweenRecord.parse({ kind: 'between', id: nanoid(10), from, until: Math.max(until, from + 1) });
  set('make a range anew', [...ranges.value, record]);
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
          @remove="
            set(
              'remove the range made anew',
              ranges.filter((item) => item !== record),
            )
          "
        />
      </div>
      <NumberRow
        title="From"
        label="First frame made anew"
        unit=""
        :value="record.from + firstObserved"
        :min="firstObserved"
        :max="record.until - 1 + firstObserved"
        :step="1"
        :precision="0"
        @change="(value) => value !== null && change(record, { from: value - firstObserved })"
      />
      <NumberRow
        title="Until"
        label="Last frame made anew"
        unit=""
        :value="record.until - 1 + firstObserved"
        :min="record.from + firstObserved"
        :max="frames - 1 + firstObserved"
        :step="1"
        :precision="0"
        @change="(value) => value !== null && change(record, { until: value + 1 - firstObserved })"
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
