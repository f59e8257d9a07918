<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { Judgement } from '@merry-shadow/core/judge/judge';
import { clipFile } from '../api/client';
import CommandButton from '../commands/CommandButton.vue';
import { provideCommands } from '../commands/commands-store';
import PlayBar from '../play/PlayBar.vue';
import { useTitle } from '../shell/title';
import { useProduction } from '../stores/production';
import { clipCommands } from './clip-commands';
import ClipPanel from './ClipPanel.vue';
import ClipStrip from './ClipStrip.vue';
import { openClip } from './open-clip';

/** A clip: play it, see what was judged, mark its takes. */
const props = defineProps<{ id: string }>();
const production = useProduction();
const open = openClip(props.id);
const { clip, facts, chosen, player } = open;
provideCommands(clipCommands(open, useRouter()));
useTitle(computed(() => clip.value?.name ?? 'Clip'));
const side = useLocalStorage<number | string>('merry-shadow.clip-side', 310);
const pointed = ref<Judgement | null>(null);
const problem = ref('');
const seconds = (frames: number): string => `${(frames / (facts.value?.rate ?? 30)).toFixed(2)} s`;
</script>

<template>
  <el-splitter v-if="clip && facts" class="screen">
    <el-splitter-panel :min="420">
      <div class="work">
        <div class="box">
          <video
            :ref="(element) => (open.video.value = (element as HTMLVideoElement | null) ?? undefined)"
            :key="`${clip.hash} ${clip.state}`"
            :src="clipFile(clip, 'proxy')"
            preload="auto"
            playsinline
            @loadeddata="problem = ''"
            @error="problem = 'The video can\'t be shown now.'"
          ></video>
          <p v-if="clip.state !== 'ready'" class="note" role="status">
            {{ clip.problem ?? `The new file is being prepared: ${Math.round(clip.progress * 100)} %` }}
          </p>
          <p v-else-if="problem" class="note" role="alert">{{ problem }}</p>
        </div>
        <div class="time">
          <PlayBar of="clip" :player="player" :frames="facts.frames" :rate="facts.rate">
            <div class="range">
              <CommandButton command="clip.in" words />
              <span v-if="chosen" class="quiet number" data-testid="range"
                >{{ chosen.fromFrame }} – {{ chosen.untilFrame - 1 }} ·
                {{ seconds(chosen.untilFrame - chosen.fromFrame) }}</span
              >
              <CommandButton command="clip.out" words />
            </div>
            <CommandButton command="clip.whole" />
          </PlayBar>
          <ClipStrip :pointed="pointed" />
        </div>
      </div>
    </el-splitter-panel>
    <el-splitter-panel v-model:size="side" :min="260" :max="520" collapsible
      ><ClipPanel @point="(judgement) => (pointed = judgement)"
    /></el-splitter-panel>
  </el-splitter>
  <section v-else-if="production.loaded && !clip" class="gone">
    <h1>This clip is not there</h1>
    <p class="quiet">It was removed, or lies in another production.</p>
    <RouterLink to="/footage">All footage</RouterLink>
  </section>
  <section v-else-if="clip" class="gone">
    <h1>{{ clip.name }}</h1>
    <p class="quiet" role="status">{{ clip.problem ?? 'It is being prepared.' }}</p>
    <RouterLink to="/footage">All footage</RouterLink>
  </section>
</template>

<style scoped>
.screen {
  height: 100%;
}

.work {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  height: 100%;
  min-height: 0;
  min-width: 0;
}

.box {
  background: var(--sheet-deep);
  min-height: 120px;
  position: relative;
}

video {
  height: 100%;
  inset: 0;
  object-fit: contain;
  position: absolute;
  width: 100%;
}

.note {
  background: var(--sheet);
  border-radius: 8px;
  left: 16px;
  margin: 0;
  padding: 6px 12px;
  position: absolute;
  top: 14px;
}

.time {
  background: var(--sheet);
  border-top: 1px solid var(--edge);
  display: flex;
  flex-direction: column;
  gap: 8px;
  max-height: 46vh;
  overflow-y: auto;
  padding: 8px 16px 10px;
}

.range {
  align-items: center;
  display: flex;
  gap: 6px;
}

.gone {
  padding: 80px;
  text-align: center;
}

.gone a {
  color: var(--amber);
  font-weight: 600;
}
</style>
