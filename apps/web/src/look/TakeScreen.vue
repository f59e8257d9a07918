<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core';
import { computed, defineAsyncComponent } from 'vue';
import { curveCommands } from '../curves/curve-commands';
import CurveDesk from '../curves/CurveDesk.vue';
import { provideCurveDesk } from '../curves/curve-desk';
import { provideCommands } from '../commands/commands-store';
import { useTitle } from '../shell/title';
import { useProduction } from '../stores/production';
import { providePosing } from '../pose/posing';
import { provideMending } from '../take/mending';
import { openTake } from '../take/open-take';
import { stageControls } from '../take/stage-controls';
import { takeCommands } from '../take/take-commands';
import StagePane from './StagePane.vue';
import TimeStrip from './strip/TimeStrip.vue';
import TakePanel from './TakePanel.vue';
import TransportBar from './TransportBar.vue';
import VideoPane from './VideoPane.vue';

/** A take: footage and motion side by side, time below, everything else at the right. */
const props = defineProps<{ id: string }>();
const production = useProduction();
const open = openTake(props.id);
const { take, facts, looked } = open;
const controls = stageControls();
const CurveChart = defineAsyncComponent(() => import('./CurveChart.vue'));
const desk = provideCurveDesk(open);
provideCommands([...takeCommands(open, controls, providePosing(open), provideMending(open)), ...curveCommands(desk)]);
useTitle(computed(() => take.value?.name ?? 'Take'));
/** Sizes that the person gave the panes, pixels; null as they come. */
const sizes = useLocalStorage<{ side: number | string; video: number | string }>('merry-shadow.panes', {
  side: 292,
  video: '50%',
});
</script>

<template>
  <el-splitter v-if="take && facts" class="screen">
    <el-splitter-panel :min="420">
      <div class="work">
        <el-splitter class="panes">
          <el-splitter-panel v-model:size="sizes.video" :min="160" collapsible
            ><VideoPane :view="controls.view.value"
          /></el-splitter-panel>
          <el-splitter-panel :min="160" collapsible><StagePane :controls="controls" /></el-splitter-panel>
        </el-splitter>
        <p v-if="looked" class="looked" role="status">
          You look at “{{ looked.title }}”.
          <el-button size="small" @click="looked = null">Back to now</el-button>
        </p>
        <CurveDesk v-if="desk.isOpen.value" />
        <div class="time">
          <TransportBar />
          <TimeStrip />
        </div>
      </div>
    </el-splitter-panel>
    <el-splitter-panel v-model:size="sizes.side" :min="250" :max="520" collapsible><TakePanel /></el-splitter-panel>
    <el-dialog
      v-model="controls.curves.value"
      title="Readings"
      top="6vh"
      width="min(860px, 92vw)"
      :modal="false"
      modal-penetrable
      draggable
      destroy-on-close
      ><CurveChart
    /></el-dialog>
  </el-splitter>
  <section v-else-if="production.loaded && !production.take(id)" class="gone">
    <h1>This take is not there</h1>
    <p class="quiet">It was removed, lies in another production, or its clip could not be prepared.</p>
    <RouterLink to="/takes">All takes</RouterLink>
  </section>
</template>

<style scoped>
.screen {
  height: 100%;
}

.work {
  display: grid;
  grid-template-rows: minmax(0, 1fr);
  grid-auto-rows: auto;
  height: 100%;
  min-height: 0;
  min-width: 0;
}

.panes {
  min-height: 0;
}

.looked {
  align-items: center;
  background: var(--amber-wash);
  display: flex;
  gap: 12px;
  justify-content: center;
  margin: 0;
  padding: 5px;
}

.time {
  background: var(--sheet);
  border-top: 1px solid var(--edge);
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding: 8px 16px 10px;
}

.gone {
  padding: 80px;
  text-align: center;
}

.gone a {
  color: var(--amber);
  font-weight: 600;
}

@media (max-width: 900px) {
  .work {
    min-height: 560px;
  }
}
</style>
