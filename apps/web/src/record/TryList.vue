<script setup lang="ts">
import { PhArrowRight, PhPlay, PhTrash } from '@phosphor-icons/vue';
import IconButton from '../shell/IconButton.vue';
import { useProduction } from '../stores/production';
import { clipFile } from '../api/client';
import { attempt } from '../shell/trouble';
import { plural } from '../shell/words';
import type { Try, useTryRecorder } from './try-recorder';

/** Tries, newest first: watched, kept or thrown away at once, while another one is recorded. */
const props = defineProps<{ recorder: ReturnType<typeof useTryRecorder> }>();
const emit = defineEmits<{ watch: [film: string] }>();
const STATES: Record<Try['state'], string> = {
  recording: 'records',
  arriving: 'being put away',
  kept: 'kept',
  failed: 'not kept',
};
const lost = ({ expected, frames }: Try): number => Math.max(0, expected - frames);
const { tries } = props.recorder;
const production = useProduction();
/** What can be watched: the film as it was recorded here, or the clip once it is prepared. */
function filmOf({ film, clipId }: Try): string {
  const clip = production.clips.find(({ id }) => id === clipId);
  return film || (clip?.state === 'ready' ? clipFile(clip, 'proxy') : '');
}
</script>

<template>
  <h2>Tries</h2>
  <p v-if="tries.length === 0" class="hint quiet">None yet. Each becomes a clip in Footage.</p>
  <ol class="cards">
    <li v-for="item in [...tries].reverse()" :key="item.number" class="card">
      <div class="head">
        <strong>Try {{ item.number }}</strong>
        <span class="quiet number">{{ item.seconds.toFixed(1) }} s · {{ STATES[item.state] }}</span>
        <span class="space"></span>
        <IconButton
          v-if="filmOf(item)"
          :icon="PhPlay"
          :label="`Watch try ${item.number}`"
          title="Watch"
          @click="emit('watch', filmOf(item))"
        />
        <RouterLink
          v-if="item.clipId"
          :to="{ name: 'clip', params: { id: item.clipId } }"
          :aria-label="`Open try ${item.number}`"
          title="Open"
          ><PhArrowRight :size="17"
        /></RouterLink>
        <IconButton
          v-if="item.state === 'kept' || item.state === 'failed'"
          :icon="PhTrash"
          :label="`Throw try ${item.number} away`"
          title="Throw away"
          @click="attempt(() => recorder.throwAway(item))"
        />
      </div>
      <span v-if="item.state !== 'recording' && lost(item) > 2" class="lost number"
        >{{ plural(lost(item), 'frame') }} of {{ item.expected }} dropped by the camera</span
      >
      <span v-if="item.problem" class="lost" role="alert">{{ item.problem }}</span>
    </li>
  </ol>
</template>

<style scoped>
li {
  padding: 5px 8px;
}

.head {
  align-items: center;
  display: flex;
  gap: 6px;
}

.head a {
  color: var(--amber);
  display: flex;
}

.space {
  flex: 1;
}

.lost {
  color: var(--berry);
  display: block;
  font-size: 13px;
}
</style>
