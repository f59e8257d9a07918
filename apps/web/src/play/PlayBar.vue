<script setup lang="ts">
import { PhPause, PhPlay } from '@phosphor-icons/vue';
import { computed } from 'vue';
import CommandButton from '../commands/CommandButton.vue';
import { useCommands } from '../commands/commands-store';
import { SPEEDS, type Player } from './player';

/** Buttons that play a clip, its speed, and the frame that is shown. What else belongs to it stands at the right. */
const props = defineProps<{
  /** Whose commands: the beginning of their ids. */
  of: string;
  player: Player;
  frames: number;
  rate: number;
}>();
const commands = useCommands();
const play = computed(() => commands.find(`${props.of}.play`));
const { shown, playing, speed, pace } = props.player;
const speeds = SPEEDS.map((value) => ({ value, label: `${value}×` }));
const winding = computed(() => (pace.value === 0 ? '' : `${Math.abs(pace.value)}× ${pace.value < 0 ? 'back' : 'on'}`));
</script>

<template>
  <div class="bar">
    <div class="group">
      <CommandButton :command="`${of}.to-in`" />
      <CommandButton :command="`${of}.back`" />
      <el-button
        class="play"
        circle
        :title="play ? commands.hint(play) : ''"
        :aria-label="playing ? 'Stop' : 'Play'"
        @click="player.toggle()"
        ><PhPause v-if="playing" :size="21" weight="fill" /><PhPlay v-else :size="21" weight="fill"
      /></el-button>
      <CommandButton :command="`${of}.on`" />
    </div>
    <el-segmented
      :model-value="speed"
      :options="speeds"
      size="small"
      aria-label="Speed"
      class="number"
      @change="(value: number) => player.setSpeed(value)"
    />
    <output class="number" data-testid="frame"
      >frame {{ shown }}
      <span class="quiet"
        >of {{ frames }} · {{ (shown / rate).toFixed(2) }} s<template v-if="winding"> · {{ winding }}</template></span
      ></output
    >
    <span class="space"></span>
    <slot></slot>
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
</style>
