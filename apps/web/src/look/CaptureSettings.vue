<script setup lang="ts">
import { PhUserFocus, PhUserSwitch, PhX } from '@phosphor-icons/vue';
import { computed } from 'vue';
import type { Manner } from '@merry-shadow/core/solve/after/manner';
import ChoiceRow from '../shell/ChoiceRow.vue';
import { pointsOf } from '@merry-shadow/contracts/take';
import { useOpenTake } from '../take/open-take';
import NumberRow from '../shell/NumberRow.vue';

/** What to track, of whom, and from what kind of footage. */
const { take, set, tools } = useOpenTake();
const { choosing } = tools;
const settings = computed(() => take.value?.settings);
const MANNER_TITLES: Record<Manner, string> = {
  about: 'about the room',
  spot: 'in place',
  seated: 'seated, legs out of sight',
  held: 'camera on the head, face alone',
};
const MANNER_CHOICES = Object.entries(MANNER_TITLES).map(([value, title]) => ({ value, title }));
</script>

<template>
  <template v-if="settings">
    <h2>Track</h2>
    <div class="parts">
      <el-checkbox :model-value="true" disabled>Body</el-checkbox>
      <el-checkbox :model-value="settings.hands" @change="(on: boolean) => set('track hands', { hands: on })"
        >Hands</el-checkbox
      >
      <el-checkbox :model-value="settings.face" @change="(on: boolean) => set('track face', { face: on })"
        >Face</el-checkbox
      >
    </div>
    <div class="who">
      <span v-if="settings.performer" class="number"
        >The one chosen on frame
        {{
          pointsOf(settings.performer, settings.performerAgain)
            .map(({ frame }) => frame)
            .join(', ')
        }}</span
      >
      <span v-else class="quiet">Whoever stands out most</span>
      <el-button
        v-if="settings.performer"
        text
        size="small"
        aria-label="Follow whoever stands out most"
        title="Follow whoever stands out most"
        @click="set('choose performer', { performer: null, performerAgain: [] })"
        ><PhX :size="14"
      /></el-button>
    </div>
    <el-button class="wide" :disabled="choosing" @click="tools.choose()"
      ><PhUserFocus :size="18" />{{ choosing ? 'Looking for people' : 'Choose in the picture' }}</el-button
    >
    <el-button
      v-if="settings.performer"
      class="wide"
      :disabled="choosing"
      title="Where somebody else was followed from here on: point at the performer again, then track once more"
      @click="tools.choose(true)"
      ><PhUserSwitch :size="18" />Say again who it is here</el-button
    >
    <ChoiceRow
      title="Moves"
      :value="settings.manner"
      :choices="MANNER_CHOICES"
      @change="(manner) => set('how the performer moves', { manner: manner as Manner })"
    />
    <el-checkbox
      :model-value="settings.fine"
      title="Looks at each frame twice, once mirrored, and takes the average"
      @change="(on: boolean) => set('high precision', { fine: on })"
      >High precision (slower)</el-checkbox
    >
    <NumberRow
      title="Slow motion"
      label="How many times slower than life"
      unit="×"
      :value="settings.slowMotion"
      :min="0.1"
      :max="20"
      :step="1"
      :precision="2"
      @change="(value) => set('slow motion', { slowMotion: value ?? 1 })"
    />
  </template>
</template>

<style scoped>
.parts,
.who {
  align-items: center;
  display: flex;
}

.parts {
  gap: 16px;
}

.parts .el-checkbox {
  margin: 0;
}

.who {
  gap: 6px;
  justify-content: space-between;
}
</style>
