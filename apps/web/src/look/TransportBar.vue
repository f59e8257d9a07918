<script setup lang="ts">
import { computed } from 'vue';
import CommandButton from '../commands/CommandButton.vue';
import PlayBar from '../play/PlayBar.vue';
import { useOpenTake } from '../take/open-take';

const { player, facts, take } = useOpenTake();
const rate = computed(() => facts.value?.rate ?? 30);
</script>

<template>
  <PlayBar of="take" :player="player" :frames="facts?.frames ?? 1" :rate="rate">
    <div v-if="take" class="range">
      <CommandButton command="take.in" words />
      <span class="quiet number" data-testid="range"
        >{{ take.fromFrame }} – {{ take.untilFrame - 1 }} ·
        {{ ((take.untilFrame - take.fromFrame) / rate).toFixed(2) }} s</span
      >
      <CommandButton command="take.out" words />
    </div>
    <CommandButton command="take.whole" />
  </PlayBar>
</template>

<style scoped>
.range {
  align-items: center;
  display: flex;
  gap: 6px;
}
</style>
