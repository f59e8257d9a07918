<script setup lang="ts">
import { PhClockCounterClockwise, PhDownloadSimple } from '@phosphor-icons/vue';
import { computed, ref, watch } from 'vue';
import { hasFace } from '@merry-shadow/core/face/face-shapes';
import { EXPORT_FORMATS, formatsFor } from '@merry-shadow/core/formats/export-formats';
import { exportAddress } from '../api/client';
import CleanPanel from '../edit/CleanPanel.vue';
import SnagPanel from '../edit/SnagPanel.vue';
import PosePanel from '../pose/PosePanel.vue';
import { useOpenTake } from '../take/open-take';
import PresetMenu from '../takes/PresetMenu.vue';
import RunHistory from '../takes/RunHistory.vue';
import RunLine from '../takes/RunLine.vue';
import BodyPose from './BodyPose.vue';
import PerformerChoice from './PerformerChoice.vue';
import FaceNeutral from './FaceNeutral.vue';
import CameraSettings from './CameraSettings.vue';
import CaptureSettings from './CaptureSettings.vue';
import PanelName from '../shell/PanelName.vue';
import NumberRow from '../shell/NumberRow.vue';
import VersionPanel from './VersionPanel.vue';
import OnceHint from '../shell/OnceHint.vue';

/** Everything about the take in words and numbers: its name, tracking, settings, edits, versions, export. */
const { id, take, shown: solved, stale, panel: tab, evaluation, work, set } = useOpenTake();
const side = ref<HTMLElement>();
watch(tab, () => side.value?.scrollTo({ top: 0 }));
const snagCount = computed(() => evaluation.snags.value?.length ?? 0);

const height = computed(() => solved.value?.body.proportions.height);
const heightWords = computed(() => {
  if (take.value?.settings.height) return 'Given by you.';
  return height.value
    ? `Estimated: ${height.value.toFixed(2)} m. Give the true height to get true distances.`
    : 'Estimated from the picture when left empty.';
});
const faceTold = computed(() => solved.value !== null && hasFace(solved.value.motion));
const exportFormats = computed(() => (solved.value ? formatsFor(solved.value.motion) : []));
const travelled = computed(() => {
  const motion = solved.value?.motion;
  if (!motion) return null;
  let sum = 0;
  for (let f = 1; f < motion.frames; f++)
    sum += Math.hypot(motion.root[f * 3] - motion.root[f * 3 - 3], motion.root[f * 3 + 2] - motion.root[f * 3 - 1]);
  return sum;
});
</script>

<template>
  <aside v-if="take" ref="side" class="panel">
    <PanelName
      :name="take.name"
      label="Name of the take"
      :most="80"
      @rename="(name) => work.change('rename', { name })"
    />
    <RunLine :take="take" />
    <p v-if="stale" class="stale">{{ stale }}</p>

    <el-tabs v-model="tab" class="tabs">
      <el-tab-pane label="Track" name="track">
        <OnceHint of="take" />
        <CaptureSettings />
        <PresetMenu :settings="take.settings" @use="(preset) => set(`preset ${preset.name}`, preset.settings)" />
        <h2>Performer</h2>
        <PerformerChoice />
        <NumberRow
          title="Height"
          label="Height in metres"
          unit="m"
          :value="take.settings.height"
          :min="0.5"
          :max="2.6"
          :step="0.01"
          :precision="2"
          :placeholder="height ? height.toFixed(2) : 'estimated'"
          @change="(value) => set('set height', { height: value })"
        />
        <p class="hint quiet">{{ heightWords }}</p>
        <BodyPose />
        <FaceNeutral v-if="faceTold" />
        <CameraSettings />
        <RunHistory :take="take" />
        <template v-if="solved">
          <h2>Motion</h2>
          <dl class="number">
            <dt>Length</dt>
            <dd>{{ solved.motion.frames }} frames</dd>
            <dt>Hip travel</dt>
            <dd>{{ travelled?.toFixed(2) }} m</dd>
            <dt>Interpolated</dt>
            <dd>{{ solved.bridged.reduce((sum, flag) => sum + flag, 0) }} frames</dd>
          </dl>
        </template>
      </el-tab-pane>
      <el-tab-pane label="Clean up" name="clean" lazy><CleanPanel /></el-tab-pane>
      <el-tab-pane label="Pose" name="pose" lazy><PosePanel /></el-tab-pane>
      <el-tab-pane name="snags" lazy
        ><template #label
          >Snags<span v-if="snagCount" class="count number">{{ snagCount }}</span></template
        ><SnagPanel
      /></el-tab-pane>
      <el-tab-pane name="versions" lazy
        ><template #label
          ><span title="Versions"
            ><PhClockCounterClockwise :size="18" weight="bold" role="img" aria-label="Versions" /></span></template
        ><VersionPanel
      /></el-tab-pane>
    </el-tabs>
    <template v-if="solved && (tab === 'track' || tab === 'clean')">
      <h2>Export</h2>
      <a v-for="format in exportFormats" :key="format" class="away" :href="exportAddress(id, format)" download
        ><PhDownloadSimple :size="18" weight="bold" />{{ EXPORT_FORMATS[format].title }}</a
      >
    </template>
  </aside>
</template>

<style scoped>
.count {
  background: var(--berry-wash);
  border-radius: 999px;
  color: var(--berry);
  font-size: 12px;
  margin-left: 5px;
  padding: 0 6px;
}

.stale {
  background: var(--amber-wash);
  border-radius: 7px;
  margin: 2px 0;
  padding: 7px 10px;
}

dl {
  display: grid;
  gap: 2px 12px;
  grid-template-columns: 1fr auto;
  margin: 0;
}

dt {
  color: var(--ink-soft);
}

dd {
  margin: 0;
}

.away {
  align-items: center;
  background: var(--amber-wash);
  border: 1px solid color-mix(in srgb, var(--amber) 40%, transparent);
  border-radius: 8px;
  color: var(--ink);
  display: flex;
  font-weight: 600;
  gap: 8px;
  padding: 8px 12px;
  text-decoration: none;
}

.away svg {
  flex: none;
}

.away:hover {
  border-color: var(--amber);
}
</style>
