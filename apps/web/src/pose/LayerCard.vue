<script setup lang="ts">
import { PhCaretDown, PhCaretUp } from '@phosphor-icons/vue';
import { computed } from 'vue';
import type { LayerRecord } from '@merry-shadow/core/edits/kinds/layer-record';
import { MOST_EASE } from '@merry-shadow/core/layers/layer';
import CommandButton from '../commands/CommandButton.vue';
import PartTags from '../edit/PartTags.vue';
import RecordButtons from '../edit/RecordButtons.vue';
import StrengthRow from '../edit/StrengthRow.vue';
import ChoiceRow from '../shell/ChoiceRow.vue';
import IconButton from '../shell/IconButton.vue';
import NameInput from '../shell/NameInput.vue';
import NumberRow from '../shell/NumberRow.vue';
import { plural } from '../shell/words';
import { useOpenTake } from '../take/open-take';

/** One layer: its keys, how strongly and where it counts. The open one is keyed by posing. */
const props = defineProps<{
  layer: LayerRecord;
  open: boolean;
  /** The shown frame, counted as keys are. */
  frame: number;
  frames: number;
  /** Whether it lies above all others, and below. */
  first: boolean;
  last: boolean;
  /** Whether it can be made one with the layer below it. */
  mergeable: boolean;
}>();
const emit = defineEmits<{
  choose: [];
  change: [label: string, layer: LayerRecord];
  remove: [];
  move: [by: 1 | -1];
  merge: [];
}>();
const { firstObserved, goTo } = useOpenTake();
const set = (label: string, fields: Partial<LayerRecord>): void =>
  emit('change', `${label} ${props.layer.name}`, { ...props.layer, ...fields });
const inside = computed(() => props.layer.keys.filter(({ frame }) => frame >= 0 && frame < props.frames).length);
const words = computed(() => {
  const { keys } = props.layer;
  if (keys.length === 0) return 'no keys yet';
  const outside = keys.length - inside.value;
  return plural(keys.length, 'key') + (outside > 0 ? `, ${outside} outside the take` : '');
});
/** What its keys do; with the first of them it is settled, since they mean other turns then. */
const MODES = [
  { value: 'offset', title: 'move with the capture' },
  { value: 'override', title: 'stand in its place' },
];
/** Keys that are listed as buttons; the strip shows all. */
const LISTED = 24;
</script>

<template>
  <li class="card edit-card" :class="{ muted: layer.muted }">
    <div class="head">
      <el-button text class="title" :aria-expanded="open" @click="emit('choose')"
        >{{ layer.name }}<span class="number">{{ words }}</span></el-button
      >
      <RecordButtons
        :title="layer.name"
        :muted="layer.muted"
        @mute="(muted) => set(muted ? 'leave out' : 'use', { muted })"
        @remove="emit('remove')"
      />
    </div>
    <div v-if="open" class="body">
      <NameInput :name="layer.name" label="Name of the layer" :most="80" @rename="(name) => set('rename', { name })" />
      <div v-if="layer.keys.length > 0" class="keys" role="group" aria-label="Keys of the layer">
        <el-button
          v-for="key in layer.keys.slice(0, LISTED)"
          :key="key.frame"
          size="small"
          class="number"
          :type="key.frame === frame ? 'primary' : 'default'"
          :aria-label="`Key at frame ${key.frame + firstObserved}`"
          @click="goTo(key.frame + firstObserved)"
          >{{ key.frame + firstObserved }}</el-button
        >
        <span v-if="layer.keys.length > LISTED" class="quiet">… {{ layer.keys.length - LISTED }} more</span>
      </div>
      <div class="tools">
        <CommandButton command="take.previous-key" />
        <CommandButton command="take.next-key" />
        <CommandButton command="take.keep-here" words />
        <CommandButton command="take.let-go-here" words />
        <CommandButton command="take.remove-key" words />
      </div>
      <StrengthRow :value="layer.strength" @change="(strength) => set('change strength of', { strength })" />
      <NumberRow
        title="Ease"
        label="Frames in which the layer comes in and goes out"
        unit="frames"
        :value="layer.ease"
        :min="0"
        :max="MOST_EASE"
        :step="1"
        :precision="0"
        @change="(value) => set('change ease of', { ease: value ?? 10 })"
      />
      <el-checkbox :model-value="layer.hold" @change="(on: unknown) => set('change ends of', { hold: on === true })"
        >Hold to the ends of the take</el-checkbox
      >
      <ChoiceRow
        v-if="layer.keys.length === 0"
        title="Its keys"
        :value="layer.mode"
        :choices="MODES"
        @change="(mode) => set('change kind of', { mode: mode as LayerRecord['mode'] })"
      />
      <p v-else class="hint quiet">Its keys {{ MODES.find(({ value }) => value === layer.mode)?.title }}.</p>
      <PartTags :parts="layer.parts" @change="(parts) => set('change parts of', { parts })" />
      <div class="order">
        <el-button v-if="mergeable" text size="small" @click="emit('merge')">Merge with the one below</el-button>
        <IconButton :icon="PhCaretUp" label="Above the next layer" :disabled="first" @click="emit('move', 1)" />
        <IconButton :icon="PhCaretDown" label="Below the layer before" :disabled="last" @click="emit('move', -1)" />
      </div>
    </div>
  </li>
</template>

<style scoped>
.title .number {
  color: var(--ink-faint);
  font-weight: 400;
  margin-left: 8px;
}

.keys,
.tools {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 3px;
}

.keys .el-button {
  margin: 0;
  padding: 4px 7px;
}

.tools :deep(.el-button) {
  height: 26px;
  padding: 0 6px;
}

.order {
  display: flex;
  justify-content: flex-end;
}
</style>
