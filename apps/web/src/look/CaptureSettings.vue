<script setup lang="ts">
import { PhUserFocus, PhX } from '@phosphor-icons/vue';
import type { TakeSettings } from '@merry-shadow/contracts/take';
import type { Manner } from '@merry-shadow/core/solve/after/manner';
import NumberRow from './NumberRow.vue';

/** What to capture, of whom, and from what kind of footage. */
defineProps<{ settings: TakeSettings; choosing: boolean }>();
const MANNER_TITLES: Record<Manner, string> = {
  about: 'about the room',
  spot: 'on the spot',
  seated: 'seated, legs out of sight',
};
const emit = defineEmits<{ change: [settings: Partial<TakeSettings>]; choose: [] }>();
</script>

<template>
  <h2>Capture</h2>
  <div class="parts">
    <label class="check"><input type="checkbox" checked disabled />Body</label>
    <label class="check"
      ><input
        type="checkbox"
        :checked="settings.hands"
        @change="emit('change', { hands: !settings.hands })"
      />Hands</label
    >
    <label class="check"
      ><input type="checkbox" :checked="settings.face" @change="emit('change', { face: !settings.face })" />Face</label
    >
  </div>
  <div class="who">
    <span v-if="settings.performer" class="number">The one chosen on frame {{ settings.performer.frame }}</span>
    <span v-else class="quiet">Whoever stands out most</span>
    <button
      v-if="settings.performer"
      type="button"
      class="bare"
      aria-label="Follow whoever stands out most"
      title="Follow whoever stands out most"
      @click="emit('change', { performer: null })"
    >
      <PhX :size="14" />
    </button>
  </div>
  <button type="button" class="wide" :disabled="choosing" @click="emit('choose')">
    <PhUserFocus :size="18" />{{ choosing ? 'Looking for people' : 'Choose in the picture' }}
  </button>
  <label class="choice"
    >Moves
    <select
      :value="settings.manner"
      @change="emit('change', { manner: ($event.target as HTMLSelectElement).value as Manner })"
    >
      <option v-for="(title, manner) in MANNER_TITLES" :key="manner" :value="manner">{{ title }}</option>
    </select></label
  >
  <label class="check" title="Looks at each frame twice, once mirrored: better marks, slower"
    ><input type="checkbox" :checked="settings.fine" @change="emit('change', { fine: !settings.fine })" />Second look
    (slower)</label
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
    @change="(value) => emit('change', { slowMotion: value ?? 1 })"
  />
</template>

<style scoped>
h2 {
  font-size: 16px;
  margin-top: 12px;
}

.parts,
.who {
  align-items: center;
  display: flex;
}

.parts {
  gap: 16px;
}

.who {
  gap: 6px;
  justify-content: space-between;
}

.choice {
  align-items: center;
  display: flex;
  gap: 8px;
  justify-content: space-between;
}

.choice select {
  background: var(--paper);
  border: 1px solid var(--edge);
  border-radius: 6px;
  color: var(--ink);
  font: inherit;
  padding: 3px 6px;
}
</style>
