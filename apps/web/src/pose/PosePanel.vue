<script setup lang="ts">
import { computed } from 'vue';
import CommandButton from '../commands/CommandButton.vue';
import { handleOf, type Handle } from '@merry-shadow/core/posing/handles';
import { plantsWithin } from '@merry-shadow/core/ground/plants';
import { useOpenTake } from '../take/open-take';
import KeyPoseList from './KeyPoseList.vue';
import LayerCard from './LayerCard.vue';
import { isMergeable, withMergedLayer, withMovedLayer } from './layer-edits';
import { usePosing } from './posing';
import TetherList from './TetherList.vue';
import ToldList from './ToldList.vue';
import OnceHint from '../shell/OnceHint.vue';

/** Corrections by hand: how the body follows, poses to copy, and the layers that keep the keys. */
const { plants, shown, work, resolving, facts, firstObserved } = useOpenTake();
/** Frames of the clip, counted from the first observed one. */
const clipFrames = computed<[number, number]>(() => [
  -firstObserved.value,
  (facts.value?.frames ?? 1) - firstObserved.value,
]);
const posing = usePosing();
const { picked, following, makes, layers, layer, frame, frames, hindrance } = posing;
const handle = computed<Handle | null>(() => (picked.value ? handleOf(picked.value) : null));
/** What takes a pose back: a plant of the same hand or foot. */
const held = computed(() => {
  const joint = picked.value;
  if (!joint || handle.value?.kind !== 'end') return '';
  const part = joint.replace('Foot', '');
  const holds = plantsWithin(plants.value, shown.value?.motion.frames ?? 0).some(
    (plant) => plant.part.startsWith(part) && frame.value >= plant.from && frame.value < plant.until,
  );
  return holds
    ? `A plant holds the ${handle.value.title} here and brings it back. Move or remove the plant to pose it.`
    : '';
});
/** Topmost first, as they lie. */
const listed = computed(() => [...layers.value].reverse());
</script>

<template>
  <OnceHint of="pose" />
  <div class="undo">
    <CommandButton command="take.undo" words />
    <CommandButton command="take.redo" words />
  </div>
  <p v-if="hindrance" class="note" role="status">{{ hindrance }}</p>
  <el-radio-group v-model="makes" size="small" aria-label="What a drag makes">
    <el-radio-button value="key">A key by hand</el-radio-button>
    <el-radio-button value="depth">A depth for the solve</el-radio-button>
  </el-radio-group>
  <template v-if="makes === 'key'">
    <p class="hint quiet">
      Drag a slip on the figure; with Alt it comes nearer or goes farther. The ring turns what was picked. Each change
      is a key of the layer at this frame.
    </p>
    <el-radio-group v-model="following" size="small" aria-label="What follows">
      <el-radio-button value="limb">The limb follows</el-radio-button>
      <el-radio-button value="body">The whole body follows</el-radio-button>
    </el-radio-group>
  </template>
  <p v-else class="hint quiet">
    One camera sees depth worst. Drag a hand, elbow, shoulder, knee, foot or the head nearer to the camera or away from
    it, best seen from the side: the take is solved again with it, and frames with a like pose follow.
  </p>
  <p v-if="resolving" class="note" role="status">Solving again with what you told</p>
  <p v-if="held" class="note" role="status">{{ held }}</p>
  <ToldList />
  <h2>Pose</h2>
  <div class="poses">
    <CommandButton command="take.copy-pose" words />
    <CommandButton command="take.paste-pose" words />
    <CommandButton command="take.paste-mirrored" words />
    <CommandButton command="take.mirror-pose" words />
  </div>
  <h2>Layers</h2>
  <p v-if="layers.length === 0" class="hint quiet">
    None yet: the first drag makes one. The captured motion stays as it is below.
  </p>
  <ol v-else class="cards">
    <LayerCard
      v-for="(record, i) in listed"
      :key="record.id"
      :layer="record"
      :open="record.id === layer?.id"
      :frame="frame"
      :frames="frames"
      :first="i === 0"
      :last="i === listed.length - 1"
      :mergeable="i + 1 < listed.length && isMergeable(listed[i + 1], record)"
      @choose="posing.choose(record.id)"
      @change="(label, next) => posing.changeLayer(label, next)"
      @remove="posing.removeLayer(record)"
      @merge="work.changeEdits(`merge ${record.name}`, withMergedLayer(work.edits.value, record.id, clipFrames))"
      @move="(by) => work.changeEdits(`move ${record.name}`, withMovedLayer(work.edits.value, record.id, by))"
    />
  </ol>
  <el-button class="add" @click="posing.addLayer">Add a layer</el-button>
  <TetherList />
  <KeyPoseList />
</template>

<style scoped>
.poses {
  display: flex;
  flex-wrap: wrap;
  gap: 2px;
  margin-left: -8px;
}

.poses :deep(.el-button) {
  height: 26px;
  justify-content: flex-start;
  padding: 0 8px;
}

.note {
  background: var(--amber-wash);
  border-radius: 7px;
  font-size: 13px;
  margin: 0;
  padding: 6px 10px;
}

.add {
  border-style: dashed;
}
</style>
