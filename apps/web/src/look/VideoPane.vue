<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core';
import { computed, onUnmounted, ref, watch } from 'vue';
import { shotAt } from '@merry-shadow/core/solve/shots/shots';
import { clipFile } from '../api/client';
import MarkHandles from '../pose/MarkHandles.vue';
import { usePosing } from '../pose/posing';
import { useOpenTake } from '../take/open-take';
import { isCloseUp, type StandardView } from '../take/stage-controls';
import { closeUpOf } from './close-up';
import { drawFigure } from './draw-figure';
import { drawSeen } from './draw-marks';
import LevelPicker from './LevelPicker.vue';
import PeoplePicker from './PeoplePicker.vue';

/** The footage with what the tracker saw, and the tools that lie over it. A close-up goes along with the part it shows. */
const props = defineProps<{ view: StandardView }>();
const open = useOpenTake();
const posing = usePosing();
const { clip, facts, player, observations: seen, atWork, firstObserved, marks, tools, lens } = open;
const { wantsOverlay, canOverlay } = open;
const { people, measuring } = tools;
const observations = computed(() => atWork.value?.observations ?? seen.value);
const first = computed(() => atWork.value?.first ?? firstObserved.value);
const width = computed(() => facts.value?.width ?? 16);
const height = computed(() => facts.value?.height ?? 9);
const MOST_ZOOM = 12;
const video = open.video;
const canvas = ref<HTMLCanvasElement>();
const box = ref<HTMLDivElement>();
const room = ref({ width: 0, height: 0 });
/** Where tools that lie over the picture put what would cover it. */
const below = ref<HTMLDivElement | null>(null);
const problem = ref('');
onUnmounted(() => (video.value = undefined));

const fitted = computed(() => {
  const scale = Math.min(room.value.width / width.value, room.value.height / height.value) || 0;
  return { width: Math.floor(width.value * scale), height: Math.floor(height.value * scale) };
});

/** How the picture is enlarged and shifted to show a part near by, in parts of its own size. */
const near = computed(() => {
  const seen = observations.value;
  if (!seen || !isCloseUp(props.view) || people.value || measuring.value) return null;
  const square = closeUpOf(seen, player.shown.value - first.value, props.view);
  if (!square) return null;
  const zoom = Math.min(MOST_ZOOM, Math.max(1, Math.min(seen.width, seen.height) / square.size));
  return { zoom, x: square.x / seen.width, y: square.y / seen.height };
});
const enlarged = computed(() => {
  if (!near.value) return undefined;
  const { zoom, x, y } = near.value;
  return { transform: `scale(${zoom}) translate(${(0.5 - x) * 100}%, ${(0.5 - y) * 100}%)` };
});

/** Pixels of the screen for one of the picture, and where the picture's origin lies. */
const placing = computed(() => {
  const { zoom, x, y } = near.value ?? { zoom: 1, x: 0.5, y: 0.5 };
  const { width: wide, height: tall } = fitted.value;
  return {
    scale: (zoom * wide) / (observations.value?.width ?? width.value),
    origin: [(0.5 - x * zoom) * wide, (0.5 - y * zoom) * tall] as const,
  };
});

function draw(): void {
  const element = canvas.value;
  const context = element?.getContext('2d');
  if (!element || !context || fitted.value.width === 0) return;
  const density = window.devicePixelRatio || 1;
  element.width = fitted.value.width * density;
  element.height = fitted.value.height * density;
  context.setTransform(density, 0, 0, density, 0, 0);
  context.clearRect(0, 0, element.width, element.height);
  if (marks.value && observations.value) {
    const { scale, origin } = placing.value;
    context.translate(...origin);
    drawSeen(context, observations.value, player.shown.value - first.value, scale);
  }
  const solved = open.shown.value;
  if (open.overlay.value && solved) {
    const { scale, origin } = placing.value;
    context.setTransform(density, 0, 0, density, origin[0] * density, origin[1] * density);
    const frame = player.shown.value - firstObserved.value;
    const { camera } = shotAt(solved.shots, frame);
    drawFigure(context, solved.motion, frame, camera, scale, { line: '#c2410c', halo: '#fff7e6' });
  }
}

useResizeObserver(box, ([{ contentRect }]) => (room.value = { width: contentRect.width, height: contentRect.height }));
watch(
  () => [
    player.shown.value,
    observations.value,
    marks.value,
    fitted.value,
    near.value,
    open.overlay.value && open.shown.value?.motion,
  ],
  draw,
  { flush: 'post' },
);
</script>

<template>
  <div class="pane" @keydown.esc.stop="tools.close()">
    <div ref="box" class="box">
      <div class="picture" :style="{ width: `${fitted.width}px`, height: `${fitted.height}px` }">
        <div class="shown" :style="enlarged">
          <video
            ref="video"
            :key="`${clip?.hash} ${clip?.state}`"
            :src="clip ? clipFile(clip, 'proxy') : undefined"
            preload="auto"
            playsinline
            @loadeddata="problem = ''"
            @error="problem = 'The video can\'t be shown.'"
          ></video>
        </div>
        <canvas ref="canvas" aria-hidden="true"></canvas>
        <MarkHandles
          v-if="posing.on.value && marks && seen && !people && !measuring"
          :observations="seen"
          :frame="player.shown.value - firstObserved"
          :scale="placing.scale"
          :origin="placing.origin"
        />
        <PeoplePicker
          v-if="people"
          :seen="people"
          :scale="fitted.width / people.width"
          :video="video"
          :again="tools.sayingAgain.value"
          @pick="tools.pick"
          @each="tools.takeForEach"
          @close="tools.close()"
        />
        <LevelPicker
          v-if="measuring"
          :width="width"
          :height="height"
          :scale="fitted.width / width"
          :field-of-view="lens"
          :below="below"
          @use="tools.level"
          @close="tools.close()"
        />
      </div>
      <p v-if="clip && clip.state !== 'ready'" class="problem" role="status">
        {{ clip.problem ?? `The video is being prepared: ${Math.round(clip.progress * 100)} %` }}
      </p>
      <p v-else-if="problem" class="problem" role="alert">{{ problem }}</p>
    </div>
    <div ref="below"></div>
    <div class="over">
      <el-checkbox v-model="marks" title="What the tracker saw, over the picture">Marks</el-checkbox>
      <el-checkbox
        v-model="wantsOverlay"
        :disabled="!canOverlay"
        :title="
          open.solved.value && !canOverlay
            ? 'The camera moved: the figure would not lie where it was filmed.'
            : 'The solved figure, over the picture'
        "
        >Figure</el-checkbox
      >
    </div>
  </div>
</template>

<style scoped>
.pane {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  height: 100%;
  position: relative;
}

.over {
  display: flex;
  gap: 6px;
  left: 12px;
  position: absolute;
  top: 12px;
}

.over .el-checkbox {
  background: color-mix(in srgb, var(--sheet) 88%, transparent);
  border-radius: 999px;
  height: 28px;
  margin: 0;
  padding: 0 12px 0 9px;
}

.box {
  background: var(--sheet-deep);
  display: grid;
  overflow: hidden;
  place-items: center;
  position: relative;
}

.picture {
  background: var(--screen);
  overflow: hidden;
  position: relative;
}

.shown,
video,
canvas {
  height: 100%;
  inset: 0;
  position: absolute;
  width: 100%;
}

.problem {
  color: var(--berry);
  position: absolute;
}
</style>
