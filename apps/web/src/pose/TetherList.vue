<script setup lang="ts">
import { nanoid } from 'nanoid';
import { computed } from 'vue';
import { TetherRecord } from '@merry-shadow/core/edits/kinds/tether-record';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import { handleOf } from '@merry-shadow/core/posing/handles';
import { placeNow, TETHERED, type Tethered } from '@merry-shadow/core/posing/tether';
import { mirrorName } from '@merry-shadow/core/motion/humanoid';
import RecordButtons from '../edit/RecordButtons.vue';
import AddMenu from '../shell/AddMenu.vue';
import NumberRow from '../shell/NumberRow.vue';
import { useOpenTake } from '../take/open-take';
import { usePosing } from './posing';

/** Tethers hold a hand, a foot or the hips for a while where they are now: in the world, or on the body. */
const { work, shown, firstObserved } = useOpenTake();
const { picked, frame, frames } = usePosing();
/** Frames of a new tether to either side of the shown frame. */
const HALF = 8;
const WORLD = 'world';
const ON_BODY = [
  { name: 'hips', title: 'to the hips' },
  { name: 'upperChest', title: 'to the chest' },
  { name: 'head', title: 'to the head' },
  { name: 'leftUpperLeg', title: 'to the left thigh' },
  { name: 'rightUpperLeg', title: 'to the right thigh' },
];
const tethers = computed(() => recordsOf(work.edits.value.records, 'tether'));
const joint = computed(() => TETHERED.find((name) => name === picked.value) ?? null);
const targets = computed(() => [
  { name: WORLD, title: 'to its place' },
  ...(joint.value?.endsWith('Hand') ? [...ON_BODY, { name: mirrorName(joint.value), title: 'to the other hand' }] : []),
]);
const title = ({ joint: held, to }: TetherRecord): string =>
  `${handleOf(held).title} ${
    to === null ? 'at a place' : (ON_BODY.find(({ name }) => name === to)?.title ?? 'to the other hand')
  }`;

const set = (label: string, records: readonly TetherRecord[]): void => {
  const others = work.edits.value.records.filter(({ kind }) => kind !== 'tether');
  work.changeEdits(label, { ...work.edits.value, records: [...others, ...records] });
};
const change = (record: TetherRecord, fields: Partial<TetherRecord>): void =>
  set(
    'change tether',
    tethers.value.map((item) => (item === record ? { ...item, ...fields } : item)),
  );

function add(held: Tethered, target: string): void {
  const motion = shown.value?.motion;
  if (!motion) return;
  const to = target === WORLD ? null : target;
  const place = placeNow(motion, held, to, frame.value);
  const [from, until] = [Math.max(0, frame.value - HALF), Math.min(frames.value, frame.value + HALF + 1)];
  const record = TetherRecord.parse({ kind: 'tether', id: nanoid(10), joint: held, to, place, from, until });
  set(`hold the ${handleOf(held).title}`, [...tethers.value, record]);
}
</script>

<template>
  <h2>Tethers</h2>
  <p v-if="tethers.length === 0 && !joint" class="hint quiet">
    Pick a hand, a foot or the hips, to hold it where it is for a while: at its place, or to a part of the body.
  </p>
  <ul v-if="tethers.length > 0" class="cards">
    <li v-for="record in tethers" :key="record.id" class="card edit-card" data-testid="tether">
      <div class="head">
        <strong>{{ title(record) }}</strong>
        <RecordButtons
          :title="title(record)"
          :muted="record.muted"
          @mute="(muted) => change(record, { muted })"
          @remove="
            set(
              'remove tether',
              tethers.filter((item) => item !== record),
            )
          "
        />
      </div>
      <div class="body">
        <NumberRow
          title="From"
          label="First frame of the tether"
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
          label="Last frame of the tether"
          unit=""
          :value="record.until - 1 + firstObserved"
          :min="record.from + firstObserved"
          :max="frames - 1 + firstObserved"
          :step="1"
          :precision="0"
          @change="(value) => value !== null && change(record, { until: value + 1 - firstObserved })"
        />
        <NumberRow
          title="Ease"
          label="Frames of ease at each end of the tether"
          unit="frames"
          :value="record.ease"
          :min="0"
          :max="60"
          :step="1"
          :precision="0"
          @change="(value) => change(record, { ease: value ?? 5 })"
        />
      </div>
    </li>
  </ul>
  <AddMenu
    v-if="joint"
    :title="`Hold the ${handleOf(joint).title}`"
    :items="targets"
    @add="(target) => joint && add(joint, target)"
  />
</template>

<style scoped>
.head strong {
  flex: 1;
  font-size: 14px;
  padding: 4px 5px;
}
</style>
