<script setup lang="ts">
import { PhDownloadSimple, PhRuler } from '@phosphor-icons/vue';
import { computed, ref, watch } from 'vue';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import { DEFAULT_FIELD_OF_VIEW, pitchOf } from '@merry-shadow/core/camera/pinhole';
import type { TakeSettings, TakeView } from '@merry-shadow/contracts/take';
import { EXPORT_FORMATS } from '@merry-shadow/core/formats/export-formats';
import { changeTake, exportAddress } from '../api/client';
import { attempt } from '../shell/trouble';
import { useProduction } from '../stores/production';
import RunLine from '../takes/RunLine.vue';
import CleanPanel from '../edit/CleanPanel.vue';
import SnagPanel from '../edit/SnagPanel.vue';
import type { TakeEditor } from '../edit/take-editor';
import BodyPose from './BodyPose.vue';
import CaptureSettings from './CaptureSettings.vue';
import LensChoice from './LensChoice.vue';
import NumberRow from './NumberRow.vue';
import ShotList from './ShotList.vue';

const props = defineProps<{
  take: TakeView;
  solved: SolvedTake | null;
  stale: string;
  choosing: boolean;
  editor: TakeEditor;
  /** Counted from the capture's first frame. */
  frame: number;
  firstObserved: number;
  selected: number | null;
}>();
const emit = defineEmits<{ choose: []; level: []; seek: [frame: number]; select: [plant: number | null] }>();
const tab = ref<'capture' | 'clean' | 'snags'>('capture');
const snagCount = computed(() => props.editor.evaluated.value?.snags.length ?? 0);
watch(
  () => props.selected,
  (plant) => plant !== null && (tab.value = 'clean'),
);
const production = useProduction();
const name = ref(props.take.name);
watch(
  () => props.take.name,
  (value) => (name.value = value),
);

async function change(settings: Partial<TakeSettings>): Promise<void> {
  await attempt(() => changeTake(props.take.id, { settings }));
  await production.watch();
}

async function rename(): Promise<void> {
  const wanted = name.value.trim();
  if (wanted === props.take.name) return;
  if (wanted === '' || !(await attempt(() => changeTake(props.take.id, { name: wanted }))))
    name.value = props.take.name;
  await production.watch();
}

const height = computed(() => props.solved?.body.proportions.height);
/** What the file says of the lens, degrees. */
const lens = computed(() => production.clip(props.take.clipId)?.facts?.fieldOfView ?? null);
/** How far the camera looks down in the solved scene, degrees. */
const tilt = computed(() => {
  const camera = props.solved?.camera;
  return camera && (pitchOf(camera) * 180) / Math.PI;
});
/** The share of frames from which on something is said of the whole take. */
const MOSTLY = 0.5;
const cameraWords = computed(() => {
  const turned = ((props.solved?.turned ?? 0) * 180) / Math.PI;
  if (!props.take.settings.steady) return 'What the camera moved is left in the motion.';
  if (turned > 0)
    return `The camera turned by up to ${turned.toFixed(1)}°; the motion stands still where the background does.`;
  return (props.solved?.untold ?? 0) > MOSTLY
    ? 'The background shows too little to tell whether the camera moved; it is taken to have stood still. If it was held by hand, film before something with more to see, or put it down.'
    : 'The camera stood still.';
});
/** The floor's slope counts as told to within so much, radians. */
const WELL_TOLD = 0.09;
const floorWords = computed(() => {
  if (!props.solved || props.take.settings.manner === 'seated')
    return 'Found from legs and feet. Give it where the floor slopes in the scene.';
  const doubt = props.solved.floorDoubt;
  if (doubt === null)
    return 'Nobody stands upright here, so the floor is guessed. Measure it on the picture: along the horizon or an upright edge.';
  const told = `Told by who stands and walks, to some ${((doubt * 180) / Math.PI).toFixed(0)}°.`;
  return doubt > WELL_TOLD ? `${told} If the floor slopes in the scene, measure it on the picture.` : told;
});
const travelled = computed(() => {
  const motion = props.solved?.motion;
  if (!motion) return null;
  let sum = 0;
  for (let f = 1; f < motion.frames; f++)
    sum += Math.hypot(motion.root[f * 3] - motion.root[f * 3 - 3], motion.root[f * 3 + 2] - motion.root[f * 3 - 1]);
  return sum;
});
</script>

<template>
  <aside>
    <textarea
      v-model="name"
      class="name"
      rows="1"
      aria-label="Name of the take"
      maxlength="80"
      @change="rename"
      @keydown.enter.prevent="($event.target as HTMLTextAreaElement).blur()"
    ></textarea>
    <RunLine :take="take" />
    <p v-if="stale" class="stale">{{ stale }}</p>

    <div class="tabs" role="tablist" aria-label="What to work on">
      <button type="button" role="tab" :aria-selected="tab === 'capture'" @click="tab = 'capture'">Capture</button>
      <button type="button" role="tab" :aria-selected="tab === 'clean'" @click="tab = 'clean'">Clean up</button>
      <button type="button" role="tab" :aria-selected="tab === 'snags'" @click="tab = 'snags'">
        Snags<span v-if="snagCount" class="count number">{{ snagCount }}</span>
      </button>
    </div>

    <CleanPanel
      v-if="tab === 'clean'"
      :editor="editor"
      :frame="Math.max(0, Math.min(frame, (solved?.motion.frames ?? 1) - 1))"
      :frames="solved?.motion.frames ?? 1"
      :selected="selected"
      @select="(plant) => emit('select', plant)"
    />
    <SnagPanel
      v-else-if="tab === 'snags'"
      :editor="editor"
      :first-observed="firstObserved"
      @seek="(at) => emit('seek', at)"
    />
    <template v-else>
      <CaptureSettings :settings="take.settings" :choosing="choosing" @change="change" @choose="emit('choose')" />

      <h2>Performer</h2>
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
        @change="(value) => change({ height: value })"
      />
      <p class="hint quiet">
        {{
          take.settings.height
            ? 'Given by you.'
            : height
              ? `Estimated: ${height.toFixed(2)} m. Give the true height to get true distances.`
              : 'Estimated from the picture when left empty.'
        }}
      </p>

      <BodyPose
        :pose="solved?.body.pose ?? null"
        :picked="take.settings.calibration"
        :first-observed="firstObserved"
        :frame="frame + firstObserved"
        :frames="solved?.motion.frames ?? 0"
        @pick="(calibration) => change({ calibration })"
        @seek="(at) => emit('seek', at)"
      />

      <h2>Camera and floor</h2>
      <LensChoice :value="take.settings.fieldOfView" :lens="lens" @change="(value) => change({ fieldOfView: value })" />
      <NumberRow
        title="Field of view"
        label="Field of view in degrees"
        unit="°"
        :value="take.settings.fieldOfView"
        :min="5"
        :max="150"
        :step="1"
        :precision="1"
        :placeholder="String(lens ?? DEFAULT_FIELD_OF_VIEW)"
        @change="(value) => change({ fieldOfView: value })"
      />
      <p class="hint quiet">
        Across the long side of the picture.
        {{
          lens === null
            ? 'Said rightly, paths and distances come out right.'
            : `The file says that the lens sees ${lens.toFixed(1)}°.`
        }}
      </p>
      <NumberRow
        title="Looks down"
        label="How far the camera looks down, in degrees"
        unit="°"
        :value="take.settings.tilt"
        :min="-60"
        :max="60"
        :step="1"
        :precision="1"
        :placeholder="tilt === undefined ? 'found' : tilt.toFixed(1)"
        @change="(value) => change({ tilt: value })"
      />
      <p class="hint quiet">
        {{ take.settings.tilt !== null ? 'Given by you; the floor is laid under the feet at that slope.' : floorWords }}
      </p>
      <button type="button" class="wide" @click="emit('level')"><PhRuler :size="18" />Measure on the picture</button>
      <label class="check"
        ><input
          type="checkbox"
          :checked="take.settings.steady"
          @change="change({ steady: !take.settings.steady })"
        />Take camera movement out</label
      >
      <p v-if="solved" class="hint quiet">{{ cameraWords }}</p>
      <ShotList
        v-if="solved"
        :solved="solved"
        :frame="frame"
        :first-observed="firstObserved"
        :said="take.settings.cuts !== null"
        @seek="(at) => emit('seek', at)"
        @change="(cuts) => change({ cuts })"
      />
    </template>
    <template v-if="solved && tab !== 'snags'">
      <h2 v-if="tab === 'capture'">Motion</h2>
      <dl v-if="tab === 'capture'" class="number">
        <dt>Length</dt>
        <dd>{{ solved.motion.frames }} frames</dd>
        <dt>Way of the hips</dt>
        <dd>{{ travelled?.toFixed(2) }} m</dd>
        <dt>Carried over gaps</dt>
        <dd>{{ solved.bridged.reduce((sum, flag) => sum + flag, 0) }} frames</dd>
      </dl>
      <h2>Take it away</h2>
      <a
        v-for="({ title }, format) in EXPORT_FORMATS"
        :key="format"
        class="away"
        :href="exportAddress(take.id, format)"
        download
        ><PhDownloadSimple :size="18" weight="bold" />{{ title }}</a
      >
    </template>
  </aside>
</template>

<style scoped>
aside {
  background: var(--sheet);
  border-left: 1px solid var(--edge);
  display: flex;
  flex-direction: column;
  gap: 8px;
  overflow-y: auto;
  padding: 14px 16px 24px;
}

.name {
  background: none;
  border: 1px solid transparent;
  border-radius: 6px;
  color: var(--ink);
  field-sizing: content;
  flex: none;
  font: 600 18px/1.2 var(--display);
  margin: -4px -8px 2px;
  resize: none;
  padding: 4px 8px;
}

.name:hover {
  border-color: var(--edge);
}

.tabs {
  border-bottom: 1px solid var(--edge);
  display: flex;
  flex: none;
  gap: 2px;
  margin: 4px -16px 0;
  padding: 0 14px;
}

.tabs button {
  background: none;
  border: 0;
  border-bottom: 2px solid transparent;
  color: var(--ink-soft);
  cursor: pointer;
  font: 600 14px var(--font);
  padding: 5px 8px;
}

.tabs button:hover {
  color: var(--ink);
}

.tabs [aria-selected='true'] {
  border-color: var(--amber);
  color: var(--ink);
}

.count {
  background: var(--berry-wash);
  border-radius: 999px;
  color: var(--berry);
  font-size: 12px;
  margin-left: 5px;
  padding: 0 6px;
}

h2 {
  font-size: 16px;
  margin-top: 12px;
}

.hint {
  font-size: 13px;
  margin: 0;
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
