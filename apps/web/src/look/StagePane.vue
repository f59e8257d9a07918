<script setup lang="ts">
import { onMounted, onUnmounted, ref, shallowRef, watch } from 'vue';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import { useNight } from '../theme/night';
import { shotAt } from '@merry-shadow/core/solve/shots/shots';
import { StageView, STANDARD_VIEWS, type StandardView } from './stage/stage-view';

const props = defineProps<{ solved: SolvedTake | null; frame: number; state: string }>();
/** Shows the capture without what was laid over it. */
const before = defineModel<boolean>('before', { required: true });
const canvas = ref<HTMLCanvasElement>();
const box = ref<HTMLDivElement>();
const view = shallowRef<StageView>();
const problem = ref('');
const chosen = ref<StandardView>('front');
const following = ref(true);
const night = useNight();

function look(name: StandardView): void {
  chosen.value = name;
  view.value?.look(name);
}
function follow(on: boolean): void {
  following.value = on;
  view.value?.setFollowing(on);
}
defineExpose({ look, toggleFollowing: () => follow(!following.value) });

const observer = new ResizeObserver(([entry]) => view.value?.resize(entry.contentRect.width, entry.contentRect.height));
onMounted(() => {
  if (!canvas.value || !box.value) return;
  try {
    view.value = new StageView(canvas.value);
    Object.assign(canvas.value, { stage: view.value });
    observer.observe(box.value);
  } catch {
    problem.value = "This browser can't draw in 3D (WebGL is missing or switched off). Everything else works.";
  }
});
onUnmounted(() => {
  observer.disconnect();
  view.value?.dispose();
});
watch([() => props.solved, view], ([solved]) => view.value?.setMotion(solved?.motion ?? null, solved?.camera ?? null));
watch(
  [() => props.solved && shotAt(props.solved.shots, props.frame).camera, view],
  ([camera]) => camera && view.value?.setShot(camera),
);
watch(
  () => props.frame,
  (frame) => view.value?.setFrame(frame),
  { flush: 'sync' },
);
watch(
  () => night.night,
  () => view.value?.paint(),
  { flush: 'post' },
);
</script>

<template>
  <div ref="box" class="box">
    <canvas ref="canvas" data-testid="stage" aria-label="The motion in 3D. Drag to look from another side."></canvas>
    <div class="views" role="group" aria-label="Look from">
      <button
        v-for="name in STANDARD_VIEWS"
        :key="name"
        type="button"
        :class="{ on: chosen === name }"
        :disabled="!solved"
        @click="look(name)"
      >
        {{ name }}
      </button>
    </div>
    <label class="follow" title="Keep beside the figure (F)"
      ><input type="checkbox" :checked="following" @change="follow(!following)" />Follow</label
    >
    <button
      v-if="solved"
      type="button"
      class="before"
      :aria-pressed="before"
      title="Compare with the capture as it was solved (B)"
      @click="before = !before"
    >
      {{ before ? 'As captured' : 'Cleaned up' }}
    </button>
    <p v-if="problem || state" class="state" role="status">{{ problem || state }}</p>
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

.views {
  background: color-mix(in srgb, var(--sheet) 88%, transparent);
  border: 1px solid var(--edge);
  border-radius: 999px;
  display: flex;
  overflow: hidden;
  position: absolute;
  right: 12px;
  top: 12px;
}

.views button {
  background: none;
  border: 0;
  color: var(--ink-soft);
  cursor: pointer;
  font: 600 13px var(--font);
  padding: 5px 11px;
}

.views button:hover:not(:disabled) {
  background: var(--amber-wash);
  color: var(--ink);
}

.views .on:not(:disabled) {
  background: var(--ink);
  color: var(--sheet);
}

.follow {
  align-items: center;
  background: color-mix(in srgb, var(--sheet) 88%, transparent);
  border-radius: 999px;
  cursor: pointer;
  display: flex;
  font-size: 14px;
  gap: 6px;
  left: 12px;
  padding: 3px 11px 3px 8px;
  position: absolute;
  top: 13px;
}

.before {
  background: color-mix(in srgb, var(--sheet) 88%, transparent);
  border: 1px solid var(--edge);
  border-radius: 999px;
  bottom: 12px;
  color: var(--ink-soft);
  cursor: pointer;
  font: 600 13px var(--font);
  left: 12px;
  padding: 3px 11px;
  position: absolute;
}

.before[aria-pressed='true'] {
  background: var(--ink);
  color: var(--sheet);
}

.follow input {
  accent-color: var(--amber);
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
