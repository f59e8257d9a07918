<script setup lang="ts">
import { PhCaretLeft, PhCaretRight, PhPause, PhPlay, PhSkipBack } from '@phosphor-icons/vue';
import { SPEEDS, type Player } from './player';

defineProps<{
  player: Player;
  rate: number;
  frames: number;
  frame: number;
  from: number;
  until: number;
  marks: boolean;
}>();
const emit = defineEmits<{ 'update:marks': [on: boolean]; markIn: []; markOut: [] }>();
</script>

<template>
  <div class="bar">
    <div class="group">
      <button type="button" title="To the in point (Home)" aria-label="To the in point" @click="player.seek(from)">
        <PhSkipBack :size="19" weight="fill" />
      </button>
      <button type="button" title="One frame back (left arrow)" aria-label="One frame back" @click="player.step(-1)">
        <PhCaretLeft :size="19" weight="bold" />
      </button>
      <button
        type="button"
        class="play"
        :title="player.playing.value ? 'Stop (space)' : 'Play (space)'"
        :aria-label="player.playing.value ? 'Stop' : 'Play'"
        @click="player.toggle()"
      >
        <PhPause v-if="player.playing.value" :size="21" weight="fill" /><PhPlay v-else :size="21" weight="fill" />
      </button>
      <button type="button" title="One frame on (right arrow)" aria-label="One frame on" @click="player.step(1)">
        <PhCaretRight :size="19" weight="bold" />
      </button>
    </div>
    <div class="group" role="group" aria-label="Speed">
      <button
        v-for="value in SPEEDS"
        :key="value"
        type="button"
        class="speed number"
        :class="{ on: player.speed.value === value }"
        @click="player.setSpeed(value)"
      >
        {{ value === 1 ? 'true speed' : `${value} ×` }}
      </button>
    </div>
    <output class="number" data-testid="frame"
      >frame {{ frame }} <span class="quiet">of {{ frames }} · {{ (frame / rate).toFixed(2) }} s</span></output
    >
    <span class="space"></span>
    <div class="group range">
      <button type="button" class="word" title="Set the in point here (I)" @click="emit('markIn')">In here</button>
      <span class="quiet number" data-testid="range"
        >{{ from }} – {{ until - 1 }} · {{ ((until - from) / rate).toFixed(2) }} s</span
      >
      <button type="button" class="word" title="Set the out point here (O)" @click="emit('markOut')">Out here</button>
    </div>
    <label class="marks"><input type="checkbox" :checked="marks" @change="emit('update:marks', !marks)" />Marks</label>
  </div>
</template>

<style scoped>
.bar {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
}

.group {
  align-items: center;
  display: flex;
  gap: 2px;
}

.space {
  flex: 1;
}

button {
  background: none;
  border: 0;
  border-radius: 7px;
  color: var(--ink);
  cursor: pointer;
  display: inline-grid;
  font: 600 13px var(--font);
  height: 32px;
  min-width: 32px;
  padding: 0 7px;
  place-items: center;
}

button:hover {
  background: var(--amber-wash);
}

.play {
  background: var(--amber-glow);
  border-radius: 50%;
  color: #2a1d08;
  height: 38px;
  margin: 0 4px;
  width: 38px;
}

.speed {
  color: var(--ink-soft);
}

.speed.on {
  background: var(--sheet-deep);
  color: var(--ink);
}

output {
  font-weight: 600;
  min-width: 190px;
}

output .quiet {
  font-weight: 400;
}

.word {
  border: 1px solid var(--edge);
}

.range {
  gap: 10px;
}

.marks {
  align-items: center;
  cursor: pointer;
  display: flex;
  gap: 6px;
}

.marks input {
  accent-color: var(--amber);
}
</style>
