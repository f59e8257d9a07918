<script setup lang="ts">
import { PhPause, PhPlay } from '@phosphor-icons/vue';
import { computed } from 'vue';
import CommandButton from '../commands/CommandButton.vue';
import { useCommands } from '../commands/commands-store';
import { useOpenTake } from '../take/open-take';
import { SPEEDS } from '../take/player';

const { player, facts, take, marks } = useOpenTake();
const commands = useCommands();
const play = computed(() => commands.find('take.play'));
const rate = computed(() => facts.value?.rate ?? 30);
const frame = player.shown;
const speeds = SPEEDS.map((value) => ({ value, label: `${value}×` }));
</script>

<template>
  <div class="bar">
    <div class="group">
      <CommandButton command="take.to-in" />
      <CommandButton command="take.back" />
      <el-button
        class="play"
        circle
        :title="play ? commands.hint(play) : ''"
        :aria-label="player.playing.value ? 'Stop' : 'Play'"
        @click="player.toggle()"
        ><PhPause v-if="player.playing.value" :size="21" weight="fill" /><PhPlay v-else :size="21" weight="fill"
      /></el-button>
      <CommandButton command="take.on" />
    </div>
    <el-segmented
      :model-value="player.speed.value"
      :options="speeds"
      size="small"
      aria-label="Speed"
      class="number"
      @change="(value: number) => player.setSpeed(value)"
    />
    <output class="number" data-testid="frame"
      >frame {{ frame }} <span class="quiet">of {{ facts?.frames }} · {{ (frame / rate).toFixed(2) }} s</span></output
    >
    <span class="space"></span>
    <div v-if="take" class="group range">
      <CommandButton command="take.in" words />
      <span class="quiet number" data-testid="range"
        >{{ take.fromFrame }} – {{ take.untilFrame - 1 }} ·
        {{ ((take.untilFrame - take.fromFrame) / rate).toFixed(2) }} s</span
      >
      <CommandButton command="take.out" words />
    </div>
    <CommandButton command="take.whole" />
    <el-checkbox v-model="marks">Marks</el-checkbox>
  </div>
</template>

<style scoped>
.bar {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
}

.group {
  align-items: center;
  display: flex;
  gap: 2px;
}

.space {
  flex: 1;
}

.play {
  --el-button-bg-color: var(--amber-glow);
  --el-button-text-color: #2a1d08;
  --el-button-hover-bg-color: var(--amber-glow);
  --el-button-hover-text-color: #2a1d08;
  border: 0;
  height: 38px;
  margin: 0 4px;
  width: 38px;
}

output {
  font-weight: 600;
  min-width: 180px;
}

output .quiet {
  font-weight: 400;
}

.range {
  gap: 6px;
}
</style>
