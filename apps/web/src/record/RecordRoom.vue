<script setup lang="ts">
import { PhRecord, PhStop, PhWebcam } from '@phosphor-icons/vue';
import { useEventListener, useLocalStorage, useResizeObserver } from '@vueuse/core';
import { computed, defineAsyncComponent, onUnmounted, ref, shallowRef, watch } from 'vue';
import { isSeen } from '@merry-shadow/core/observe/body';
import type { CapturedParts } from '@merry-shadow/core/observe/observations';
import { LIVE_ADVICE } from '@merry-shadow/core/judge/live-advice';
import type { WatchedPart } from '@merry-shadow/core/judge/parts-seen';
import { provideCommands } from '../commands/commands-store';
import { drawSeen } from '../look/draw-marks';
import { useTitle } from '../shell/title';
import { attempt } from '../shell/trouble';
import { useProduction } from '../stores/production';
import { partsWithDepth, useDepthCamera } from './depth-camera';
import DepthInvite from './DepthInvite.vue';
import DepthPicture from './DepthPicture.vue';
import { useLiveCamera } from './live-camera';
import RecordSettings from './RecordSettings.vue';
import { chime, say } from './spoken';
import { useTryRecorder } from './try-recorder';
import SeenParts from './SeenParts.vue';
import TryList from './TryList.vue';
import { USUAL_SETUP, type RecordSetup } from './record-setup';

// With the stage's library only where it is asked for.
const LiveFigure = defineAsyncComponent(() => import('./LiveFigure.vue'));
/** Record from a webcam or a depth camera: see yourself as a skeleton, be told what is wrong, and record numbered tries. */
const production = useProduction();
const setup = useLocalStorage<RecordSetup>('merry-shadow.record', { ...USUAL_SETUP }, { mergeDefaults: true });
const parts = (): CapturedParts => ({ hands: setup.value.fingers, face: setup.value.face });
const webcam = useLiveCamera(parts);
const depth = useDepthCamera(parts);
const recorder = useTryRecorder(() => production.id);
const camera = computed(() => (setup.value.source === 'depth' ? depth : webcam));
const video = ref<HTMLVideoElement>();
const canvas = ref<HTMLCanvasElement>();
const box = ref<HTMLDivElement>();
const on = computed(() => camera.value.state.value === 'on');
const running = computed(() => recorder.tries.value.find(({ number }) => number === recorder.current.value));

/** Seconds until the recording begins; null when none is counted down. */
const counted = ref<number | null>(null);
let counting = 0;
function countDown(): void {
  if (!on.value || recorder.recording.value || counted.value !== null) return;
  counted.value = setup.value.countDown;
  const tick = (): void => {
    if (counted.value === null) return;
    if (counted.value === 0) {
      counted.value = null;
      chime(true);
      return void begin();
    }
    chime();
    counting = window.setTimeout(() => {
      counted.value = (counted.value ?? 1) - 1;
      tick();
    }, 1000);
  };
  tick();
}
function cancelCount(): void {
  clearTimeout(counting);
  counted.value = null;
}
async function begin(): Promise<void> {
  const { source, seconds } = setup.value;
  const [stream, element, device] = [webcam.stream.value, video.value, depth.camera.value];
  if (source === 'webcam' && stream && element) await attempt(() => recorder.start(stream, element, seconds));
  if (source === 'depth' && device) await attempt(() => recorder.startDepth(device, seconds));
}
function recordOrStop(): void {
  if (counted.value !== null) cancelCount();
  else if (recorder.recording.value) {
    recorder.stop();
    chime(true);
  } else countDown();
}
watch(depth.news, (news) => news && recorder.depthNews(news));
// A camera that went away ends its recording as far as it got.
watch(depth.camera, (device) => device ?? recorder.depthNews(null));
watch(
  () => camera.value.signs.value,
  () => setup.value.handsFree && recordOrStop(),
);
watch(
  () => camera.value.advice.value,
  (now) => now && setup.value.spoken && !recorder.recording.value && say(LIVE_ADVICE[now]),
);
const recordingNow = recorder.recording;
// Leaving while it records would end the recording.
useEventListener(window, 'beforeunload', (event) => recordingNow.value && event.preventDefault());
onUnmounted(cancelCount);

provideCommands([
  {
    id: 'record.record',
    title: 'Record or stop',
    group: 'Record',
    keys: ['r'],
    enabled: () => on.value,
    run: recordOrStop,
  },
]);

function draw(): void {
  const element = canvas.value;
  const context = element?.getContext('2d');
  const seen = camera.value.seen.value;
  if (!element || !context || !box.value) return;
  if (!seen) return context.clearRect(0, 0, element.width, element.height);
  const scale = Math.min(box.value.clientWidth / seen.picture.width, box.value.clientHeight / seen.picture.height);
  const [width, height] = [seen.picture.width * scale, seen.picture.height * scale];
  element.style.width = `${width}px`;
  element.style.height = `${height}px`;
  const density = window.devicePixelRatio || 1;
  element.width = width * density;
  element.height = height * density;
  // As in a mirror: what is recorded is as the camera sees it.
  context.setTransform(-density, 0, 0, density, width * density, 0);
  context.drawImage(seen.picture, 0, 0, width, height);
  drawSeen(context, seen.observations, 0, scale);
}
watch(() => camera.value.seen.value, draw, { flush: 'post' });
useResizeObserver(box, draw);
/** Depth is looked for where the tracked picture has its marks. */
const partsDepth = shallowRef<Record<WatchedPart, boolean> | null>(null);
watch(depth.seen, (seen) => {
  const [map, device] = [depth.map.value, depth.camera.value];
  const told = seen && map && device && isSeen(seen.observations, 0);
  partsDepth.value = told ? partsWithDepth(map, device.rig, seen.observations.marks, seen.observations.width) : null;
});
/** Another kind of camera: the one that is on is let go. */
watch(
  () => setup.value.source,
  () => {
    webcam.stop();
    depth.stop();
  },
);
const start = (): void => void (video.value && webcam.start(video.value, setup.value));
/** Another camera, microphone, size or rate: the stream is opened anew, not while it records. */
watch(
  (['camera', 'microphone', 'width', 'rate'] as const).map((name) => () => setup.value[name]),
  () => setup.value.source === 'webcam' && on.value && !recorder.recording.value && start(),
);
const watched = shallowRef<string | null>(null);
const dropped = computed(() => Math.max(0, (running.value?.expected ?? 0) - (running.value?.frames ?? 0)));
useTitle('Record');
</script>

<template>
  <section class="room">
    <div class="middle">
      <div ref="box" class="picture" :class="{ recording: recorder.recording.value }">
        <video ref="video" class="source" playsinline muted></video>
        <canvas ref="canvas" class="shown" aria-hidden="true"></canvas>
        <div v-if="camera.state.value === 'off'" class="invite">
          <DepthInvite
            v-if="setup.source === 'depth'"
            :problem="depth.problem.value"
            @choose="(device) => depth.start(device)"
          />
          <template v-else>
            <PhWebcam :size="52" weight="duotone" />
            <h1>Record with your webcam</h1>
            <p>Stand back until your whole body is in the picture. Everything stays on this computer.</p>
            <el-button type="primary" size="large" @click="start">Start the camera</el-button>
            <p v-if="webcam.problem.value" class="problem" role="alert">{{ webcam.problem.value }}</p>
          </template>
        </div>
        <p v-else-if="!on" class="note" role="status">
          {{ camera.state.value === 'asking' ? 'Waiting for leave to use the camera' : 'Loading the tracker' }}
        </p>
        <DepthPicture v-if="on && setup.source === 'depth' && depth.map.value" :map="depth.map.value" />
        <LiveFigure v-if="on && setup.figure" :observations="camera.seen.value?.observations ?? null" />
        <p v-if="counted !== null" class="count" role="status" data-testid="count-down">{{ counted }}</p>
        <p v-else-if="on && camera.advice.value" class="advice" role="status" data-testid="advice">
          {{ LIVE_ADVICE[camera.advice.value] }}
        </p>
        <p v-if="running" class="clock number" data-testid="clock">
          <PhRecord :size="26" weight="fill" />{{ running.seconds.toFixed(1) }} s<template v-if="setup.seconds">
            of {{ setup.seconds }} s</template
          >
        </p>
      </div>
      <video v-if="watched" class="watched" :src="watched" controls autoplay playsinline></video>
    </div>
    <aside>
      <TryList :recorder="recorder" @watch="(film) => (watched = watched === film ? null : film)" />
      <RecordSettings v-model="setup" :open="on" :busy="recorder.recording.value" />
    </aside>
    <div v-if="on" class="bar">
      <el-button type="primary" size="large" @click="recordOrStop"
        ><PhStop v-if="recorder.recording.value" :size="20" weight="fill" /><PhRecord
          v-else
          :size="20"
          weight="fill"
        />{{ recorder.recording.value ? 'Stop' : counted !== null ? 'Cancel' : 'Record' }}</el-button
      >
      <SeenParts :observations="camera.seen.value?.observations ?? null" :depth="partsDepth" />
      <span v-if="running" class="number" :class="{ quiet: dropped <= 2 }" data-testid="drops"
        >{{ running.frames }} frames recorded{{ dropped > 2 ? `, ${dropped} dropped by the camera` : '' }}</span
      >
      <span
        class="quiet number"
        data-testid="live-rate"
        :title="`${camera.took.value.toFixed(0)} ms for each; recording waits for none of them`"
        ><strong>{{ camera.rate.value.toFixed(1) }}</strong> frames/s tracked</span
      >
      <span class="space"></span>
      <el-button :disabled="recorder.recording.value" @click="camera.stop()">Stop the camera</el-button>
    </div>
  </section>
</template>

<style scoped>
.room {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 290px;
  grid-template-rows: minmax(0, 1fr) auto;
  height: 100%;
}

.middle {
  display: grid;
  grid-auto-flow: row;
  grid-auto-rows: minmax(0, 1fr);
  min-height: 0;
}

.picture {
  background: var(--screen);
  display: grid;
  min-height: 0;
  overflow: hidden;
  place-items: center;
  position: relative;
}

.recording {
  outline: 5px solid var(--berry);
  outline-offset: -5px;
}

/* Pictures are shown together with their marks; the camera's own view stays out of sight. */
.source {
  height: 1px;
  opacity: 0;
  position: absolute;
  width: 1px;
}

.watched {
  background: var(--screen);
  height: 100%;
  width: 100%;
}

.shown {
  position: relative;
}

.invite {
  color: #f3e8d6;
  max-width: 34em;
  padding: 20px;
  position: absolute;
  text-align: center;
}

.invite p {
  color: #c3b3a0;
}

.invite .problem {
  color: #ffb3c6;
}

.note {
  background: var(--sheet);
  border-radius: 999px;
  bottom: 16px;
  padding: 5px 16px;
  position: absolute;
}

/* Read from four metres. */
.advice,
.count,
.clock {
  background: rgb(25 20 18 / 78%);
  border-radius: 16px;
  color: #fff7e6;
  font-family: var(--display);
  font-weight: 600;
  margin: 0;
  position: absolute;
}

.advice {
  bottom: 7%;
  font-size: clamp(34px, 6.5vw, 84px);
  line-height: 1.1;
  padding: 10px 34px;
  text-align: center;
}

.count {
  font-size: min(38vh, 320px);
  line-height: 1;
  padding: 0 60px;
}

.clock {
  align-items: center;
  display: flex;
  font-size: 30px;
  gap: 10px;
  padding: 4px 18px;
  right: 18px;
  top: 16px;
}

.clock svg {
  color: #ff8fab;
}

aside {
  background: var(--sheet);
  border-left: 1px solid var(--edge);
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
  overflow-y: auto;
  padding: 14px 16px 24px;
}

.bar {
  align-items: center;
  background: var(--sheet);
  border-top: 1px solid var(--edge);
  display: flex;
  gap: 6px 16px;
  grid-column: 1 / -1;
  padding: 8px 20px;
  white-space: nowrap;
}

.space {
  flex: 1;
}

@media (max-width: 760px) {
  .room {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: minmax(280px, 1fr) auto auto;
  }
}
</style>
