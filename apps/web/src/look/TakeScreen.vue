<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, shallowRef, watch } from 'vue';
import type { Observations } from '@merry-shadow/core/observe/observations';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import { DEFAULT_FIELD_OF_VIEW } from '@merry-shadow/core/camera/pinhole';
import type { Plant } from '@merry-shadow/core/ground/plants';
import type { SeenPeople, SeenPerson } from '@merry-shadow/contracts/clip';
import { ElMessage } from 'element-plus';
import { addTake, changeTake, clipFile, fetchObservations, fetchPeople, fetchSolved } from '../api/client';
import { attempt } from '../shell/trouble';
import { useTakeEditor } from '../edit/take-editor';
import { useTakeKeeper } from '../edit/take-keeper';
import { useProduction } from '../stores/production';
import { isOpen, runWords } from '../takes/run-words';
import { usePlayer, type PlayedPart } from './player';
import StagePane from './StagePane.vue';
import type { StandardView } from './stage/stage-view';
import TakePanel from './TakePanel.vue';
import TimeStrip from './TimeStrip.vue';
import { workPreview } from './work-preview';
import TransportBar from './TransportBar.vue';
import VideoPane from './VideoPane.vue';

const props = defineProps<{ id: string }>();
const production = useProduction();
const take = computed(() => production.take(props.id));
const clip = computed(() => (take.value ? production.clip(take.value.clipId) : undefined));
const facts = computed(() => clip.value?.facts ?? null);
const part = computed<PlayedPart | undefined>(() =>
  take.value && facts.value
    ? { rate: facts.value.rate, frames: facts.value.frames, from: take.value.fromFrame, until: take.value.untilFrame }
    : undefined,
);

const pane = ref<InstanceType<typeof VideoPane>>();
const stage = ref<InstanceType<typeof StagePane>>();
const player = usePlayer(
  computed(() => pane.value?.video ?? undefined),
  part,
);
const marks = ref(true);
/** Frames of the clip with which another shot begins. */
const cuts = computed(() => solved.value?.shots.slice(1).map(({ from }) => from + firstObserved.value) ?? []);
const observations = shallowRef<Observations | null>(null);
const solved = shallowRef<SolvedTake | null>(null);
const problem = ref('');

const captured = computed(() => take.value?.captured ?? null);
const firstObserved = computed(() => captured.value?.fromFrame ?? 0);
const editor = useTakeEditor(
  solved,
  computed(() => take.value && { edits: take.value.edits, revision: take.value.editsRevision }),
  firstObserved,
  useTakeKeeper(props.id, solved, firstObserved),
);
/** The capture as it was solved, without what was laid over it. */
const before = ref(false);
const shown = computed<SolvedTake | null>(() => {
  const evaluated = editor.evaluated.value;
  if (!solved.value || !evaluated) return null;
  return before.value ? solved.value : { ...solved.value, motion: evaluated.motion };
});
const selected = ref<number | null>(null);
const plants = computed(() => editor.evaluated.value?.plants ?? []);
watch(plants, (list) => selected.value !== null && selected.value >= list.length && (selected.value = null));

function setPlants(next: Plant[]): void {
  editor.change({ ...editor.edits.value, plants: next });
}
const stale = computed(() => {
  const [now, then] = [take.value, captured.value];
  if (!now || !then) return '';
  if (then.fromFrame !== now.fromFrame || then.untilFrame !== now.untilFrame)
    return 'The in or out point was moved after the capture. Capture again to use the new range.';
  const missing = [
    now.settings.hands && !then.hands ? 'hands' : '',
    now.settings.face && !then.face ? 'face' : '',
    now.settings.fine && !then.fine ? 'second look' : '',
  ].filter(Boolean);
  return missing.length > 0 ? `Capture again to get the ${missing.join(' and the ')}, too.` : '';
});

/** Marks of the frame that is being worked on, while nothing finished is there to show. */
const work = computed(() => (observations.value ? null : workPreview(take.value?.run?.preview ?? null, facts.value)));
const people = shallowRef<SeenPeople | null>(null);
const choosing = ref(false);
watch(
  () => work.value?.first,
  (frame) => frame !== undefined && !player.playing.value && player.seek(frame),
);
watch(
  () => player.shown.value,
  (frame) => people.value && frame !== people.value.frame && (people.value = null),
);

/** Whether the camera's pitch is measured on the picture, and the lens that it is seen through, degrees. */
const measuring = ref(false);
const lens = computed(() => take.value?.settings.fieldOfView ?? facts.value?.fieldOfView ?? DEFAULT_FIELD_OF_VIEW);

function measure(): void {
  player.pause();
  people.value = null;
  measuring.value = true;
}

async function level(degrees: number): Promise<void> {
  measuring.value = false;
  await attempt(() => changeTake(props.id, { settings: { tilt: Number(degrees.toFixed(1)) } }));
  await production.watch();
}

async function choose(): Promise<void> {
  if (!clip.value) return;
  measuring.value = false;
  player.pause();
  choosing.value = true;
  await attempt(async () => (people.value = await fetchPeople(clip.value?.id ?? '', player.shown.value)));
  choosing.value = false;
}

async function pick({ x, y }: SeenPerson): Promise<void> {
  const frame = people.value?.frame ?? 0;
  people.value = null;
  await attempt(() => changeTake(props.id, { settings: { performer: { frame, x, y } } }));
  await production.watch();
}

/** Makes a take for each person who was found: this take follows the first, the others get takes of their own beside it. */
async function takeForEach(): Promise<void> {
  const { frame, people: found } = people.value ?? { frame: 0, people: [] };
  const own = take.value;
  people.value = null;
  if (!own) return;
  const { name, clipId, fromFrame, untilFrame, settings } = own;
  await attempt(async () => {
    for (const [i, { x, y }] of found.entries()) {
      const performer = { frame, x, y };
      if (i === 0) await changeTake(own.id, { settings: { performer } });
      else
        await addTake(clipId, {
          name: `${name} · performer ${i + 1}`.slice(-80),
          fromFrame,
          untilFrame,
          // Another person is of another height.
          settings: { ...settings, performer, height: null },
        });
    }
    ElMessage({
      type: 'success',
      message: `${found.length} takes now, one for each performer. Captured together, the clip is read once.`,
      duration: 6000,
    });
  });
  await production.watch();
}

const state = computed(() => {
  if (problem.value) return problem.value;
  const run = take.value?.run ?? null;
  if (shown.value) return '';
  if (run && isOpen(run)) return `Capturing: ${runWords(run)}`;
  if (captured.value) return 'Making the motion';
  return 'Nothing captured yet. Set the in and out point, then press Capture.';
});

watch(
  () => captured.value?.runId,
  async (runId) => {
    observations.value = null;
    solved.value = null;
    if (runId) await attempt(async () => (observations.value = await fetchObservations(props.id)));
  },
  { immediate: true },
);

/** What the motion is made from: another one is fetched when any of it changes. */
const madeFrom = computed(() => {
  const { height, fieldOfView, tilt, steady, calibration, cuts, slowMotion, manner } = take.value?.settings ?? {};
  const said = [height, fieldOfView, tilt, steady, calibration, cuts, slowMotion, manner];
  return captured.value ? JSON.stringify([captured.value.runId, ...said]) : '';
});
watch(
  madeFrom,
  async (wanted, _, onCleanup) => {
    const newer = new AbortController();
    onCleanup(() => newer.abort());
    if (!wanted) return;
    problem.value = '';
    try {
      const result = await fetchSolved(props.id, newer.signal);
      if (wanted === madeFrom.value) solved.value = result;
    } catch (error) {
      if (wanted !== madeFrom.value) return;
      solved.value = null;
      problem.value = (error as Error).message;
    }
  },
  { immediate: true },
);

watch(part, (now, before) => now && !before && player.seek(now.from), { immediate: true });

async function setRange(fromFrame: number, untilFrame: number): Promise<void> {
  if (!take.value || (fromFrame === take.value.fromFrame && untilFrame === take.value.untilFrame)) return;
  await attempt(() => changeTake(props.id, { fromFrame, untilFrame }));
  await production.watch();
}

function markIn(): void {
  if (take.value) void setRange(player.shown.value, Math.max(take.value.untilFrame, player.shown.value + 1));
}

function markOut(): void {
  if (take.value) void setRange(Math.min(take.value.fromFrame, player.shown.value), player.shown.value + 1);
}

function removePlant(): void {
  if (selected.value === null) return;
  setPlants(plants.value.filter((_, i) => i !== selected.value));
  selected.value = null;
}

const VIEW_KEYS: Record<string, StandardView> = {
  '1': 'front',
  '2': 'left',
  '3': 'right',
  '4': 'above',
  '5': 'camera',
};

function key(event: KeyboardEvent): void {
  const typing =
    event.target instanceof HTMLElement && event.target.closest('input, textarea, [contenteditable]') !== null;
  if (typing || event.altKey || !part.value) return;
  if (event.ctrlKey || event.metaKey) {
    if (event.key.toLowerCase() !== 'z') return;
    event.preventDefault();
    if (event.shiftKey) editor.redo();
    else editor.undo();
    return;
  }
  const jump = event.shiftKey ? 10 : 1;
  const view = VIEW_KEYS[event.key];
  const actions: Record<string, () => void> = {
    ' ': player.toggle,
    ArrowLeft: () => player.step(-jump),
    ArrowRight: () => player.step(jump),
    Home: () => player.seek(part.value?.from ?? 0),
    End: () => player.seek((part.value?.until ?? 1) - 1),
    i: markIn,
    o: markOut,
    m: () => (marks.value = !marks.value),
    f: () => stage.value?.toggleFollowing(),
    b: () => (before.value = !before.value),
    Delete: removePlant,
  };
  const action = view ? () => stage.value?.look(view) : actions[event.key];
  if (!action) return;
  event.preventDefault();
  action();
}
onMounted(() => window.addEventListener('keydown', key));
onUnmounted(() => window.removeEventListener('keydown', key));
</script>

<template>
  <section v-if="take && facts && clip" class="screen">
    <div class="work">
      <el-splitter class="panes">
        <el-splitter-panel :min="220"
          ><VideoPane
            ref="pane"
            :source="clipFile(clip.id, 'proxy')"
            :width="facts.width"
            :height="facts.height"
            :frame="player.shown.value"
            :observations="work?.observations ?? observations"
            :first-observed="work?.first ?? firstObserved"
            :marks="marks"
            :people="people"
            :measured="measuring ? lens : null"
            @pick="pick"
            @each="takeForEach"
            @level="level"
            @close="((people = null), (measuring = false))"
        /></el-splitter-panel>
        <el-splitter-panel :min="220"
          ><StagePane
            ref="stage"
            v-model:before="before"
            :solved="shown"
            :frame="player.shown.value - firstObserved"
            :state="state"
        /></el-splitter-panel>
      </el-splitter>
      <div class="time">
        <TransportBar
          v-model:marks="marks"
          :player="player"
          :rate="facts.rate"
          :frames="facts.frames"
          :frame="player.shown.value"
          :from="take.fromFrame"
          :until="take.untilFrame"
          @mark-in="markIn"
          @mark-out="markOut"
        />
        <TimeStrip
          :frames="facts.frames"
          :rate="facts.rate"
          :frame="player.shown.value"
          :from="take.fromFrame"
          :until="take.untilFrame"
          :observations="observations"
          :first-observed="firstObserved"
          :plants="plants"
          :snags="editor.evaluated.value?.snags ?? []"
          :selected="selected"
          :cuts="cuts"
          @select="(plant) => (selected = plant)"
          @plants="setPlants"
          @seek="(frame) => (player.pause(), player.seek(frame))"
          @range="setRange"
        />
      </div>
    </div>
    <TakePanel
      :take="take"
      :solved="shown"
      :stale="stale"
      :choosing="choosing"
      :editor="editor"
      :frame="player.shown.value - firstObserved"
      :first-observed="firstObserved"
      :selected="selected"
      @choose="choose"
      @level="measure"
      @seek="(frame) => (player.pause(), player.seek(frame))"
      @select="(plant) => (selected = plant)"
    />
  </section>
  <section v-else-if="production.loaded" class="gone">
    <h1>This take is not there</h1>
    <p class="quiet">It was removed, or its clip could not be prepared.</p>
    <RouterLink to="/takes">All takes</RouterLink>
  </section>
</template>

<style scoped>
.screen {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 268px;
  height: 100%;
}

.work {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  min-height: 0;
  min-width: 0;
}

.panes {
  min-height: 0;
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
  .screen {
    grid-template-columns: 1fr;
    grid-template-rows: minmax(420px, 1fr) auto;
    overflow: auto;
  }
}
</style>
