<script setup lang="ts">
import { PhRuler } from '@phosphor-icons/vue';
import { computed } from 'vue';
import { DEFAULT_FIELD_OF_VIEW, pitchOf } from '@merry-shadow/core/camera/pinhole';
import { useOpenTake } from '../take/open-take';
import LensChoice from './LensChoice.vue';
import NumberRow from '../shell/NumberRow.vue';
import ShotList from './ShotList.vue';

/** The camera and the floor: what a person says, and what was found. */
const { take, facts, solved, set, tools } = useOpenTake();
const settings = computed(() => take.value?.settings);
/** What the file says of the lens, degrees. */
const lens = computed(() => facts.value?.fieldOfView ?? null);
/** How far the camera looks down in the solved scene, degrees. */
const pitch = computed(() => solved.value && (pitchOf(solved.value.camera) * 180) / Math.PI);
/** The share of frames from which on something is said of the whole take. */
const MOSTLY = 0.5;
const cameraWords = computed(() => {
  const turned = ((solved.value?.turned ?? 0) * 180) / Math.PI;
  if (!settings.value?.steady) return 'What the camera moved is left in the motion.';
  if (turned > 0)
    return `The camera turned by up to ${turned.toFixed(1)}°; the motion stands still where the background does.`;
  return (solved.value?.untold ?? 0) > MOSTLY
    ? 'The background shows too little to tell whether the camera moved; it is taken to have stood still. If it was held by hand, film before something with more to see, or put it down.'
    : 'The camera stood still.';
});
/** The floor's slope counts as told to within so much, radians. */
const WELL_TOLD = 0.09;
const floorWords = computed(() => {
  if (settings.value?.tilt !== null) return 'Given by you; the floor is laid under the feet at that slope.';
  if (!solved.value || settings.value.manner === 'seated')
    return 'Found from legs and feet. Give it where the floor slopes in the scene.';
  const doubt = solved.value.floorDoubt;
  if (doubt === null)
    return 'Nobody stands upright here, so the floor is guessed. Measure it on the picture: along the horizon or an upright edge.';
  const told = `Told by who stands and walks, to some ${((doubt * 180) / Math.PI).toFixed(0)}°.`;
  return doubt > WELL_TOLD ? `${told} If the floor slopes in the scene, measure it on the picture.` : told;
});
</script>

<template>
  <template v-if="settings">
    <h2>Camera and floor</h2>
    <LensChoice
      :value="settings.fieldOfView"
      :lens="lens"
      @change="(fieldOfView) => set('set the lens', { fieldOfView })"
    />
    <NumberRow
      title="Field of view"
      label="Field of view in degrees"
      unit="°"
      :value="settings.fieldOfView"
      :min="5"
      :max="150"
      :step="1"
      :precision="1"
      :placeholder="String(lens ?? DEFAULT_FIELD_OF_VIEW)"
      @change="(fieldOfView) => set('set field of view', { fieldOfView })"
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
      title="Camera pitch"
      label="Camera pitch: how far the camera looks down, in degrees"
      unit="°"
      :value="settings.tilt"
      :min="-60"
      :max="60"
      :step="1"
      :precision="1"
      :placeholder="pitch === null ? 'found' : pitch.toFixed(1)"
      @change="(tilt) => set('set camera pitch', { tilt })"
    />
    <p class="hint quiet">{{ floorWords }}</p>
    <el-button class="wide" @click="tools.measure"><PhRuler :size="18" />Measure on the picture</el-button>
    <el-checkbox :model-value="settings.steady" @change="(on: boolean) => set('camera movement', { steady: on })"
      >Take camera movement out</el-checkbox
    >
    <p v-if="solved" class="hint quiet">{{ cameraWords }}</p>
    <ShotList v-if="solved" />
  </template>
</template>
