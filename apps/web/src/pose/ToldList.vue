<script setup lang="ts">
import { PhTrash } from '@phosphor-icons/vue';
import { nanoid } from 'nanoid';
import { computed } from 'vue';
import { SwappedSidesRecord, TOLD_KINDS } from '@merry-shadow/core/edits/kinds/told-record';
import { kindOf, type EditRecord } from '@merry-shadow/core/edits/registry';
import { withoutRecords, withRecord } from '@merry-shadow/core/edits/take-edits';
import { nameWords } from '@merry-shadow/core/motion/name-words';
import { SWAPPED } from '@merry-shadow/core/solve/hints/swapped-sides';
import SpanRows from '../edit/SpanRows.vue';
import AddMenu from '../shell/AddMenu.vue';
import IconButton from '../shell/IconButton.vue';
import { useOpenTake } from '../take/open-take';

/** What the person told to the solve: marks and depths, in the order of their frames. */
const { work, observations, frame, firstObserved, goTo } = useOpenTake();
type ToldRecord = Extract<EditRecord, { kind: (typeof TOLD_KINDS)[number] }>;
const isTold = (record: EditRecord): record is ToldRecord => (TOLD_KINDS as readonly string[]).includes(record.kind);
const frameOf = (record: EditRecord): number => kindOf(record).span(record)?.[0] ?? 0;
const frames = computed(() => observations.value?.frames ?? 0);
const rate = computed(() => observations.value?.rate ?? 30);
const told = computed(() => work.edits.value.records.filter(isTold).sort((a, b) => frameOf(a) - frameOf(b)));
/** "left wrist, depth". */
function words(record: ToldRecord): string {
  if (record.kind === 'swapped-sides') return `left and right of the ${record.what} swapped`;
  const what = { 'moved-mark': 'moved', 'hidden-mark': 'hidden', 'depth-hint': 'depth' }[record.kind];
  return `${nameWords(record.mark)}, ${what}`;
}
/** Seconds of a new swap to either side of the shown frame. */
const HALF = 0.25;
const swaps = SWAPPED.map((name) => ({ name, title: `of the ${name}` }));
function swap(what: string): void {
  const half = Math.round(HALF * rate.value);
  const at = Math.max(0, Math.min(frame.value, frames.value - 1));
  const record = SwappedSidesRecord.parse({
    kind: 'swapped-sides',
    id: nanoid(10),
    what,
    from: Math.max(0, at - half),
    until: Math.min(frames.value, at + half + 1),
  });
  put('swap left and right', record);
}
const put = (label: string, record: SwappedSidesRecord): void =>
  work.changeEdits(label, withRecord(work.edits.value, record));
const remove = ({ id }: ToldRecord): void =>
  work.changeEdits(
    'take back what was told',
    withoutRecords(work.edits.value, (record) => record.id === id),
  );
</script>

<template>
  <h2>Told to the solve</h2>
  <p v-if="told.length === 0" class="hint quiet">
    Drag a mark on the picture where it belongs, or Delete it where it is not to be seen. Where the tracker took left
    for right, swap them.
  </p>
  <ul v-else class="cards">
    <li v-for="record in told" :key="record.id" class="card" data-testid="told">
      <div class="head">
        <el-button text class="go" @click="goTo(frameOf(record) + firstObserved)"
          >{{ words(record)
          }}<span v-if="record.kind !== 'swapped-sides'" class="number quiet"
            >frame {{ frameOf(record) + firstObserved }}</span
          ></el-button
        >
        <IconButton :icon="PhTrash" :label="`Take back: ${words(record)}`" @click="remove(record)" />
      </div>
      <div v-if="record.kind === 'swapped-sides'" class="span">
        <SpanRows
          :from="record.from"
          :until="record.until"
          :frames="frames"
          :first="firstObserved"
          of="of the swap"
          @change="(fields) => put('change the swap', { ...record, ...fields })"
        />
      </div>
    </li>
  </ul>
  <AddMenu v-if="frames > 0" title="Swap left and right" :items="swaps" @add="swap" />
</template>

<style scoped>
.head {
  align-items: center;
  display: flex;
}

.span {
  display: flex;
  flex-direction: column;
  gap: 4px;
  padding: 2px 8px 8px;
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
