<script setup lang="ts">
import { PhEye } from '@phosphor-icons/vue';
import { useResizeObserver } from '@vueuse/core';
import { computed, onMounted, onUnmounted, ref, shallowRef, watch } from 'vue';
import { hasFace } from '@merry-shadow/core/face/face-shapes';
import { hasFingers } from '@merry-shadow/core/motion/humanoid';
import { shotAt } from '@merry-shadow/core/solve/shots/shots';
import { useCommands } from '../commands/commands-store';
import { usePosing } from '../pose/posing';
import StageHandles from '../pose/StageHandles.vue';
import { useMending } from '../take/mending';
import { useOpenTake } from '../take/open-take';
import { CLOSE_UPS, PICTURE_PLACES, STANDARD_VIEWS, type StageControls } from '../take/stage-controls';
import { useNight } from '../theme/night';
import { useCompany } from './company';
import OtherPerformer from './OtherPerformer.vue';
import { NO_3D, StageView } from './stage/stage-view';

/** The motion in 3D. */
const props = defineProps<{ controls: StageControls }>();
const open = useOpenTake();
const { shown: solved, solved: made, before, frame, instead, tracking, video } = open;
const { companions, moves, figures } = useCompany(open);
const posing = usePosing();
const { pale } = useMending();
const commands = useCommands();
const canvas = ref<HTMLCanvasElement>();
const box = ref<HTMLDivElement>();
const stage = shallowRef<StageView>();
const problem = ref('');
const night = useNight();
const { view, asked, following, trails, ghosts, company, picture, curves, look } = props.controls;
const places = PICTURE_PLACES.map((value) => ({ value, label: value }));
const views = STANDARD_VIEWS.map((value) => ({ value, label: value }));
/** What the take can show near by: hands with fingers, a face that was told. */
const closeUps = computed(() => {
  const motion = solved.value?.motion;
  if (!motion) return [];
  return CLOSE_UPS.filter((part) => (part === 'face' ? hasFace(motion) : hasFingers(motion.skeleton))).map((value) => ({
    value,
    label: value,
  }));
});
const hint = (id: string): string => {
  const command = commands.find(id);
  return command ? commands.hint(command) : '';
};
const shot = computed(() => solved.value && shotAt(solved.value.shots, frame.value).camera);

useResizeObserver(box, ([{ contentRect }]) => stage.value?.resize(contentRect.width, contentRect.height));
onMounted(() => {
  if (!canvas.value || !box.value) return;
  try {
    stage.value = new StageView(canvas.value);
    Object.assign(canvas.value, { stage: stage.value });
    stage.value.resize(box.value.clientWidth, box.value.clientHeight);
  } catch {
    problem.value = NO_3D;
  }
});
onUnmounted(() => stage.value?.dispose());
watch([solved, stage], ([take]) => stage.value?.setMotion(take?.motion ?? null, take?.camera ?? null));
watch([pale, stage], ([motion]) => stage.value?.setPale(motion ?? null));
watch([shot, stage], ([camera]) => camera && stage.value?.setShot(camera));
watch(frame, (now) => stage.value?.setFrame(now), { flush: 'sync' });
watch(
  () => night.night,
  () => stage.value?.paint(),
  { flush: 'post' },
);
watch(asked, () => stage.value?.look(view.value));
watch(following, (on) => stage.value?.setFollowing(on));
watch(trails, (on) => stage.value?.setTrails(on));
watch(ghosts, (on) => stage.value?.setGhosts(on));
watch([figures, stage], () => stage.value?.setCompany(figures.value));
watch([picture, video, stage], () => stage.value?.setPicture(video.value ?? null, picture.value));
</script>

<template>
  <div ref="box" class="box">
    <template v-if="company && made">
      <OtherPerformer
        v-for="other in companions"
        :key="other.take.id"
        :take="other.take"
        :made-from="other.madeFrom"
        @moves="moves"
      />
    </template>
    <canvas ref="canvas" data-testid="stage" aria-label="The motion in 3D. Drag to look from another side."></canvas>
    <StageHandles v-if="posing.on.value && stage && solved && !before" :stage="stage" />
    <div class="top">
      <el-popover trigger="click" placement="bottom-start" :width="230">
        <template #reference>
          <el-button class="slip" size="small" round><PhEye :size="16" />Show</el-button>
        </template>
        <div class="shown">
          <el-checkbox v-model="following" :title="hint('take.follow')">Follow the figure</el-checkbox>
          <el-checkbox v-model="trails" :title="hint('take.trails')">Trails</el-checkbox>
          <el-checkbox v-model="ghosts" :title="hint('take.ghosts')">Ghosts of other frames</el-checkbox>
          <el-checkbox v-if="companions.length > 0" v-model="company" :title="hint('take.company')"
            >With {{ companions.map(({ name }) => name).join(', ') }}</el-checkbox
          >
          <span>The picture in the stage</span>
          <el-segmented v-model="picture" :options="places" size="small" block :title="hint('take.picture')" />
        </div>
      </el-popover>
      <el-segmented
        :model-value="view"
        :options="views"
        :disabled="!solved"
        size="small"
        aria-label="Look from"
        @change="look"
        @click="look(view)"
      />
      <el-segmented
        v-if="closeUps.length > 0"
        class="near"
        :model-value="view"
        :options="closeUps"
        size="small"
        aria-label="Look near by at"
        @change="look"
        @click="look(view)"
      />
    </div>
    <el-button
      v-if="solved"
      class="curves"
      size="small"
      round
      :type="curves ? 'primary' : 'default'"
      :aria-pressed="curves"
      :title="hint('take.curves')"
      @click="curves = !curves"
      >Readings</el-button
    >
    <el-button
      v-if="solved"
      class="before"
      size="small"
      round
      :type="before ? 'primary' : 'default'"
      :aria-pressed="before"
      :title="hint('take.before')"
      @click="before = !before"
      >{{ before ? 'Before edits' : 'After edits' }}</el-button
    >
    <p v-if="problem || instead" class="state" :role="tracking ? undefined : 'status'">{{ problem || instead }}</p>
  </div>
</template>

<style scoped>
.box {
  background: var(--stage-ground);
  height: 100%;
  overflow: hidden;
  position: relative;
}

canvas {
  display: block;
  height: 100%;
  inset: 0;
  position: absolute;
  width: 100%;
}

.top {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  justify-content: space-between;
  left: 12px;
  pointer-events: none;
  position: absolute;
  right: 12px;
  top: 12px;
}

.top > * {
  pointer-events: auto;
}

.near {
  margin-left: auto;
}

.slip {
  background: color-mix(in srgb, var(--sheet) 88%, transparent);
  height: 28px;
}

.slip svg {
  margin-right: 6px;
}

.shown {
  display: flex;
  flex-direction: column;
  gap: 4px;
}

.before {
  bottom: 12px;
  left: 12px;
  position: absolute;
}

.curves {
  bottom: 12px;
  position: absolute;
  right: 12px;
}

.state {
  background: var(--sheet);
  border-radius: var(--radius);
  box-shadow: var(--shadow);
  left: 50%;
  margin: 0;
  max-width: 80%;
  padding: 10px 16px;
  position: absolute;
  top: 50%;
  transform: translate(-50%, -50%);
}
</style>
