<script setup lang="ts">
import { nanoid } from 'nanoid';
import { computed } from 'vue';
import { TetherRecord } from '@merry-shadow/core/edits/kinds/tether-record';
import { handleOf } from '@merry-shadow/core/posing/handles';
import { placeNow, TETHERED, type Tethered } from '@merry-shadow/core/posing/tether';
import { mirrorName } from '@merry-shadow/core/motion/humanoid';
import { useOwnRecords } from '../edit/own-records';
import RecordButtons from '../edit/RecordButtons.vue';
import SpanRows from '../edit/SpanRows.vue';
import AddMenu from '../shell/AddMenu.vue';
import NumberRow from '../shell/NumberRow.vue';
import { useOpenTake } from '../take/open-take';
import { usePosing } from './posing';

/** Tethers hold a hand, a foot or the hips for a while where they are now: in the world, or on the body. */
const { shown, firstObserved } = useOpenTake();
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
const { list: tethers, put, remove } = useOwnRecords('tether');
const joint = computed(() => TETHERED.find((name) => name === picked.value) ?? null);
const targets = computed(() => [
  { name: WORLD, title: 'to its place' },
  ...(joint.value?.endsWith('Hand') ? [...ON_BODY, { name: mirrorName(joint.value), title: 'to the other hand' }] : []),
]);
const title = ({ joint: held, to }: TetherRecord): string =>
  `${handleOf(held).title} ${
    to === null ? 'at a place' : (ON_BODY.find(({ name }) => name === to)?.title ?? 'to the other hand')
  }`;

const change = (record: TetherRecord, fields: Partial<TetherRecord>): void =>
  put('change tether', { ...record, ...fields });

function add(held: Tethered, target: string): void {
  const motion = shown.value?.motion;
  if (!motion) return;
  const to = target === WORLD ? null : target;
  const place = placeNow(motion, held, to, frame.value);
  const [from, until] = [Math.max(0, frame.value - HALF), Math.min(frames.value, frame.value + HALF + 1)];
  const record = TetherRecord.parse({ kind: 'tether', id: nanoid(10), joint: held, to, place, from, until });
  put(`hold the ${handleOf(held).title}`, record);
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
          @remove="remove('remove tether', record)"
        />
      </div>
      <div class="body">
        <SpanRows
          :from="record.from"
          :until="record.until"
          :frames="frames"
          :first="firstObserved"
          of="of the tether"
          @change="(fields) => change(record, fields)"
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
        <el-checkbox
          :model-value="record.follow === 'body'"
          size="small"
          @change="(on: unknown) => change(record, { follow: on ? 'body' : 'limb' })"
          >The body gives way where the limb does not reach</el-checkbox
        >
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
