<script setup lang="ts">
import { computed, ref } from 'vue';
import { BETWEEN_POSES, type BetweenPoses } from '@merry-shadow/core/key-poses/key-poses';
import CommandButton from '../commands/CommandButton.vue';
import NumberRow from '../shell/NumberRow.vue';
import { attempt } from '../shell/trouble';
import { plural } from '../shell/words';
import { useKeyPoses } from './key-poses';

/** The poses that carry the take: proposed, changed by hand, and what lies between them. */
const keyPoses = useKeyPoses();
const { poses, between, frames } = keyPoses;
/** Centimetres by which straight ways between poses may be off. */
const off = ref(15);
const WORDS: Record<BetweenPoses, string> = {
  captured: 'as it is',
  held: 'held',
  straight: 'straight',
  eased: 'eased',
};
const ways = BETWEEN_POSES.map((value) => ({ value, label: WORDS[value] }));
const summary = computed(() => {
  const extremes = poses.value.filter(({ as }) => as === 'extreme').length;
  const breakdowns = poses.value.length - extremes;
  return `${plural(poses.value.length, 'pose')} in ${frames.value} frames: ${plural(extremes, 'extreme')}, ${plural(breakdowns, 'breakdown')}.`;
});
const propose = (keeping: boolean): Promise<boolean> => attempt(() => keyPoses.propose(off.value / 100, keeping));
</script>

<template>
  <h2>Key poses</h2>
  <p v-if="poses.length === 0" class="hint quiet">
    The poses that carry the performance: where the movement turns or rests, and what lies farthest off between them.
    Play them held, or send only them on.
  </p>
  <template v-else>
    <p class="hint number" role="status">{{ summary }}</p>
    <span class="hint quiet">Between them</span>
    <el-segmented
      :model-value="between"
      :options="ways"
      size="small"
      block
      aria-label="Between key poses"
      @change="(value: BetweenPoses) => keyPoses.change('between key poses', { between: value })"
    />
    <p v-if="between !== 'captured'" class="hint quiet">What is exported is made of these poses alone.</p>
    <div class="steps">
      <CommandButton command="take.previous-key-pose" />
      <CommandButton command="take.next-key-pose" />
      <CommandButton command="take.toggle-key-pose" words />
    </div>
  </template>
  <NumberRow
    title="Off at most"
    label="Centimetres by which straight ways between key poses may be off"
    unit="cm"
    :value="off"
    :min="1"
    :max="100"
    :step="1"
    :precision="0"
    @change="(value) => (off = value ?? 15)"
  />
  <div class="steps">
    <el-button @click="propose(false)">{{ poses.length > 0 ? 'Propose anew' : 'Propose key poses' }}</el-button>
    <el-button v-if="poses.length > 0" @click="propose(true)">Add where off</el-button>
    <el-button v-if="poses.length > 0" text @click="keyPoses.change('remove key poses', { poses: [] })"
      >Remove all</el-button
    >
  </div>
</template>

<style scoped>
.steps {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}

.steps .el-button {
  margin: 0;
}
</style>
