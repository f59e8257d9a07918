<script setup lang="ts">
import CommandButton from '../commands/CommandButton.vue';
import { useOpenTake } from '../take/open-take';
import BetweenList from './BetweenList.vue';
import PassList from './PassList.vue';
import PlantPanel from './PlantPanel.vue';
import TimingList from './TimingList.vue';
import OnceHint from '../shell/OnceHint.vue';

/** What is laid over the solved motion, in the order in which it is evaluated: passes, ranges made anew, plants, timing. */
const { evaluation } = useOpenTake();
const { evaluated, problem } = evaluation;
</script>

<template>
  <OnceHint of="clean" />
  <div class="undo">
    <CommandButton command="take.undo" words />
    <CommandButton command="take.redo" words />
  </div>
  <PassList />
  <BetweenList />
  <PlantPanel />
  <TimingList />
  <p v-if="problem" class="trouble" role="alert">{{ problem }}</p>
  <p v-if="evaluated" class="hint quiet number">
    Evaluated in {{ evaluated.took.toFixed(0) }} ms. Exported: {{ evaluated.exported.frames }} frames at
    {{ Number(evaluated.exported.rate.toFixed(3)) }} frames/s.
  </p>
</template>

<style scoped>
.trouble {
  color: var(--berry);
  margin: 0;
}
</style>
