<script setup lang="ts">
import { PhChartLine } from '@phosphor-icons/vue';
import { defineAsyncComponent, ref } from 'vue';
import type { Judgement } from '@merry-shadow/core/judge/judge';
import { changeClip } from '../api/client';
import PanelName from '../shell/PanelName.vue';
import { attempt } from '../shell/trouble';
import ClipAbout from './ClipAbout.vue';
import ClipTakes from './ClipTakes.vue';
import JudgementList from './JudgementList.vue';
import { useOpenClip } from './open-clip';
import OnceHint from '../shell/OnceHint.vue';

/** Everything about a clip in words: what was judged, its takes, and what is kept with it. */
const { id, clip, looks } = useOpenClip();
const emit = defineEmits<{ point: [judgement: Judgement | null] }>();
const ValuesChart = defineAsyncComponent(() => import('./ValuesChart.vue'));
const tab = ref<'takes' | 'judged' | 'about'>('takes');
const chart = ref(false);
</script>

<template>
  <aside v-if="clip" class="panel">
    <PanelName
      :name="clip.name"
      label="Name of the clip"
      :most="120"
      @rename="(name) => attempt(() => changeClip(id, { name }))"
    />
    <OnceHint of="clip" />
    <el-tabs v-model="tab" class="tabs">
      <el-tab-pane label="Takes" name="takes"><ClipTakes /></el-tab-pane>
      <el-tab-pane name="judged" lazy>
        <template #label
          >Judged<span v-if="clip.judged?.count" class="count number">{{ clip.judged.count }}</span></template
        >
        <JudgementList @point="(judgement) => emit('point', judgement)" />
        <el-button v-if="looks" @click="chart = true"><PhChartLine :size="18" />Values over time</el-button>
      </el-tab-pane>
      <el-tab-pane label="About" name="about" lazy><ClipAbout /></el-tab-pane>
    </el-tabs>
    <el-dialog v-model="chart" title="Values over time" width="min(1000px, 92vw)" destroy-on-close>
      <ValuesChart v-if="looks" :looks="looks" />
    </el-dialog>
  </aside>
</template>

<style scoped>
.count {
  background: var(--amber-wash);
  border-radius: 999px;
  font-size: 12px;
  margin-left: 5px;
  padding: 0 6px;
}
</style>
