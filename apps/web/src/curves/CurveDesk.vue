<script setup lang="ts">
import { computed } from 'vue';
import { MOST_EASE } from '@merry-shadow/core/layers/layer';
import CommandButton from '../commands/CommandButton.vue';
import { useOpenTake } from '../take/open-take';
import { ON_KEYS } from './curve-commands';
import { useCurveDesk } from './curve-desk';
import CurveSheet from './CurveSheet.vue';
import { CHANNEL_TONES } from './draw-curves';

/** Curves of a joint, the root or the face: what is shown, what is done with keys, and how far they are from the motion. */
const desk = useCurveDesk();
const { firstObserved } = useOpenTake();
const toggle = (channel: number): void => {
  const next = desk.axes.value.includes(channel)
    ? desk.axes.value.filter((one) => one !== channel)
    : [...desk.axes.value, channel].sort();
  desk.axes.value = next.length > 0 ? next : [channel];
};
/** What all share is told as the first has it. */
const stored = computed(() => desk.records.value.at(0));
const summary = computed(() => {
  const count = desk.channels.value.reduce((sum, keys) => sum + keys.length, 0);
  if (count === 0) return 'No keys: the motion as it is. Thin it to keys, or put one in at the shown frame.';
  const off = desk.thinned.value;
  const far = off
    ? ` · at most ${desk.found.value?.unit === 'centimetres' ? '' : `${off.off.toFixed(2)}${desk.unit.value} `}${off.centimetres > 0 ? `${off.centimetres.toFixed(1)} cm ` : ''}off, frame ${off.frame + firstObserved.value}`
    : '';
  return `${count} keys${desk.chosen.value.length === 0 ? '' : `, ${desk.chosen.value.length} chosen`}${far}`;
});
</script>

<template>
  <section class="desk" aria-label="Curve desk" data-testid="curve-desk">
    <div class="tools">
      <el-select v-model="desk.target.value" filterable size="small" aria-label="Curves of" class="target">
        <el-option v-for="{ value, title } in desk.targets.value" :key="value" :value="value" :label="title" />
      </el-select>
      <span class="axes" role="group" aria-label="Channels">
        <button
          v-for="(title, channel) in desk.titles.value"
          :key="title"
          type="button"
          :aria-pressed="desk.axes.value.includes(channel)"
          :style="{ color: `var(${CHANNEL_TONES[channel]})` }"
          :title="`Show or hide ${title}; double click shows it alone`"
          @click="toggle(channel)"
          @dblclick="desk.axes.value = [channel]"
        >
          {{ title }}
        </button>
      </span>
      <span class="commands">
        <CommandButton v-for="command in ON_KEYS" :key="command" :command="command" />
      </span>
      <span class="space"></span>
      <label v-if="desk.found.value?.unit !== 'centimetres'" class="number"
        >within
        <el-input-number
          v-model="desk.tolerance.value.degrees"
          :min="0.1"
          :max="45"
          :step="0.5"
          size="small"
          controls-position="right"
          aria-label="Thin within degrees"
        />
        °</label
      >
      <label v-if="desk.found.value?.count === 3" class="number"
        ><el-input-number
          v-model="desk.tolerance.value.centimetres"
          :min="0.1"
          :max="50"
          :step="0.5"
          size="small"
          controls-position="right"
          aria-label="Thin within centimetres"
        />
        cm</label
      >
      <CommandButton command="take.thin-curves" words primary />
    </div>
    <CurveSheet />
    <div class="tools">
      <el-select
        v-model="desk.besides.value"
        multiple
        filterable
        collapse-tags
        clearable
        size="small"
        placeholder="Work on others, too"
        aria-label="Curves worked on beside"
        class="beside"
      >
        <el-option
          v-for="{ value, title } in desk.targets.value.filter((other) => other.value !== desk.target.value)"
          :key="value"
          :value="value"
          :label="title"
        />
      </el-select>
      <p class="quiet number" role="status" data-testid="curve-summary">{{ summary }}</p>
      <span class="space"></span>
      <template v-if="stored">
        <label class="number"
          >comes in over
          <el-input-number
            :model-value="stored.ease"
            :min="0"
            :max="MOST_EASE"
            size="small"
            controls-position="right"
            aria-label="Frames over which the curves come in and go out"
            @change="(ease: number | undefined) => desk.set('ease of curves', { ease: ease ?? 0 })"
          />
          frames</label
        >
        <el-checkbox
          :model-value="stored.muted"
          @change="(muted: unknown) => desk.set('leave curves out', { muted: muted === true })"
          >Left out</el-checkbox
        >
        <CommandButton command="take.clear-curves" words />
      </template>
    </div>
  </section>
</template>

<style scoped>
.desk {
  background: var(--sheet);
  border-top: 1px solid var(--edge);
  display: flex;
  flex-direction: column;
  gap: 4px;
  padding: 6px 16px 4px;
}

.tools {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
}

.target {
  width: 140px;
}

.beside {
  width: 190px;
}

.beside :deep(.el-tag) {
  --el-tag-text-color: var(--ink);
}

/* The frame round all of it shows where the focus is. */
.beside :deep(input:focus-visible) {
  outline: none;
}

.axes {
  display: flex;
  gap: 2px;
}

.axes button {
  background: none;
  border: 1px solid transparent;
  border-radius: 7px;
  cursor: pointer;
  font: inherit;
  font-weight: 700;
  min-width: 26px;
  opacity: 0.45;
  padding: 2px 6px;
}

.axes button[aria-pressed='true'] {
  border-color: currentcolor;
  opacity: 1;
}

.el-input-number {
  width: 68px;
}

.commands {
  display: flex;
}

.tools :deep(.el-button) {
  height: 26px;
}

.space {
  flex: 1;
}

p {
  font-size: 13px;
  margin: 0;
}
</style>
