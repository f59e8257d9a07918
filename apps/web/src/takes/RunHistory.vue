<script setup lang="ts">
import { shallowRef, watch } from 'vue';
import type { PastRun, TakeView } from '@merry-shadow/contracts/take';
import { fetchRuns } from '../api/client';
import { seconds } from '../shell/words';

/** What was tracked of a take before, and with what. */
const props = defineProps<{ take: TakeView }>();
const runs = shallowRef<PastRun[]>([]);
watch(
  () => [props.take.id, props.take.run?.id, props.take.run?.state],
  async () => (runs.value = await fetchRuns(props.take.id).catch(() => [])),
  { immediate: true },
);
const STATES: Record<PastRun['state'], string> = {
  waiting: 'waits',
  running: 'runs',
  done: 'tracked',
  failed: 'failed',
  cancelled: 'cancelled',
};
const parts = ({ hands, face, fine }: PastRun): string =>
  ['body', hands ? 'hands' : '', face ? 'face' : '', fine ? 'high precision' : ''].filter(Boolean).join(', ');
const when = (at: string): string =>
  new Date(at).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
</script>

<template>
  <template v-if="runs.length > 1">
    <h2>Tracked before</h2>
    <ul class="number">
      <li v-for="run in runs" :key="run.id" :title="run.problem ?? undefined">
        <strong>{{ when(run.at) }}</strong> {{ STATES[run.state]
        }}<template v-if="run.state === 'done' && run.seconds"> in {{ seconds(run.seconds) }}</template>
        <span class="quiet"
          >frames {{ run.fromFrame }} to {{ run.untilFrame - 1 }} · {{ parts(run)
          }}<template v-if="run.framesPerSecond"> · {{ run.framesPerSecond.toFixed(0) }} frames/s</template></span
        >
      </li>
    </ul>
  </template>
</template>

<style scoped>
ul {
  display: flex;
  flex-direction: column;
  font-size: 13.5px;
  gap: 6px;
  list-style: none;
  margin: 0;
  padding: 0;
}

span {
  display: block;
}
</style>
