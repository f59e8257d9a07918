<script setup lang="ts">
import { PhCheckCircle, PhCircleDashed, PhHourglassMedium, PhProhibit, PhWarningCircle } from '@phosphor-icons/vue';
import { computed } from 'vue';
import type { TakeView } from '@merry-shadow/contracts/take';
import { cancelTake, captureTake } from '../api/client';
import { attempt } from '../shell/trouble';
import { useProduction } from '../stores/production';
import { aboutSeconds, trackingSeconds } from '../stores/tracking-time';
import { isOpen, runPercent, runWords, stateWords } from './run-words';

const props = defineProps<{ take: TakeView }>();
const production = useProduction();
/** How long tracking will take, seconds. */
const time = computed(() => trackingSeconds(props.take, production.speed));

async function act(work: (id: string) => Promise<unknown>): Promise<void> {
  await attempt(() => work(props.take.id));
}
</script>

<template>
  <div class="line" :class="take.run?.state ?? 'new'">
    <div class="say">
      <PhCheckCircle v-if="take.run?.state === 'done'" :size="18" weight="duotone" />
      <PhWarningCircle v-else-if="take.run?.state === 'failed'" :size="18" weight="duotone" />
      <PhProhibit v-else-if="take.run?.state === 'cancelled'" :size="18" weight="duotone" />
      <PhHourglassMedium v-else-if="take.run" :size="18" weight="duotone" />
      <PhCircleDashed v-else :size="18" />
      <span class="number">{{ take.run ? runWords(take.run) : `Not tracked yet · ${aboutSeconds(time)}` }}</span>
      <!-- Spoken when the state changes, not with each frame. -->
      <span class="unseen" role="status">{{ take.run ? stateWords(take.run) : '' }}</span>
    </div>
    <el-progress v-if="take.run && isOpen(take.run)" :percentage="runPercent(take.run)" :stroke-width="7" />
    <div class="do">
      <el-button v-if="isOpen(take.run)" size="small" @click="act(cancelTake)">Cancel</el-button>
      <el-button v-else size="small" :type="take.captured ? 'default' : 'primary'" @click="act(captureTake)">{{
        take.captured ? 'Track again' : take.run ? 'Try again' : 'Track'
      }}</el-button>
    </div>
  </div>
</template>

<style scoped>
.line {
  align-items: center;
  display: grid;
  gap: 4px 12px;
  grid-template-columns: minmax(0, 1fr) auto;
}

.say {
  align-items: center;
  color: var(--ink-soft);
  display: flex;
  gap: 7px;
}

.say svg {
  flex: none;
}

.done .say {
  color: var(--sage);
}

.failed .say {
  color: var(--berry);
}

.el-progress {
  grid-column: 1;
  grid-row: 2;
}

.do {
  grid-column: 2;
  grid-row: 1 / span 2;
}
</style>
