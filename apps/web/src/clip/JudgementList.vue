<script setup lang="ts">
import { PhCheckCircle, PhHourglassMedium } from '@phosphor-icons/vue';
import { computed } from 'vue';
import { JUDGED_LEVELS, levelOf, type Judgement } from '@merry-shadow/core/judge/judge';
import { useOpenClip } from './open-clip';

/** What will cost quality, worst first; a click goes there. */
const { clip, looks, judgements, goTo, facts } = useOpenClip();
const emit = defineEmits<{ point: [judgement: Judgement | null] }>();
const step = (severity: number): number => JUDGED_LEVELS.indexOf(levelOf(severity));
const waits = computed(() => clip.value?.state === 'ready' && clip.value.judged === null);
const seconds = (frame: number): string => `${(frame / (facts.value?.rate ?? 30)).toFixed(1)} s`;
</script>

<template>
  <p v-if="waits" class="line quiet" role="status"><PhHourglassMedium :size="18" weight="duotone" />Being looked at</p>
  <p v-else-if="!looks" class="line quiet">{{ clip?.judged?.worst }}</p>
  <p v-else-if="judgements.length === 0" class="line good">
    <PhCheckCircle :size="18" weight="duotone" />Nothing stands in the way.
  </p>
  <ul v-else class="cards">
    <li
      v-for="(judgement, i) in judgements"
      :key="i"
      :class="`level-${step(judgement.severity)}`"
      @pointerenter="emit('point', judgement)"
      @pointerleave="emit('point', null)"
    >
      <button
        type="button"
        :title="`Go to ${seconds(judgement.from)}`"
        @click="goTo(judgement.from)"
        @focus="emit('point', judgement)"
        @blur="emit('point', null)"
      >
        <strong>{{ judgement.says }}</strong>
        <span class="quiet">{{ judgement.advice }}</span>
        <em>{{ levelOf(judgement.severity) }}</em>
      </button>
    </li>
  </ul>
</template>

<style scoped>
.line {
  align-items: center;
  display: flex;
  gap: 7px;
  margin: 0;
}

.good {
  color: var(--sage);
}

button {
  background: var(--paper);
  border: 1px solid var(--edge);
  border-left: 4px solid var(--edge);
  border-radius: 8px;
  color: inherit;
  cursor: pointer;
  display: flex;
  flex-direction: column;
  font: inherit;
  font-size: 14px;
  gap: 2px;
  line-height: 1.3;
  padding: 7px 10px;
  text-align: left;
  width: 100%;
}

strong {
  font-weight: 600;
}

em {
  color: var(--ink-soft);
  font-size: 12px;
  font-style: normal;
}

.level-1 button {
  border-left-color: var(--amber-glow);
}

.level-2 button {
  border-left-color: var(--berry);
}

.level-2 em {
  color: var(--berry);
  font-weight: 600;
}

button:hover {
  border-color: var(--amber);
}
</style>
