<script setup lang="ts">
import { useDevicesList } from '@vueuse/core';
import { computed } from 'vue';
import ChoiceRow from '../shell/ChoiceRow.vue';
import { SIZES, type RecordSetup } from './record-setup';

/** Camera, microphone, size and rate; how a try begins and ends; what is said aloud. */
const setup = defineModel<RecordSetup>({ required: true });
defineProps<{
  /** Names of cameras are known once one is allowed. */
  open: boolean;
  busy: boolean;
}>();
const { videoInputs, audioInputs } = useDevicesList();
const SOURCES = [
  { value: 'webcam', title: 'webcam' },
  { value: 'depth', title: 'depth camera' },
];
const NONE = 'none';
const USUAL = 'usual';
const titled = (list: readonly MediaDeviceInfo[], word: string) =>
  list
    .filter(({ deviceId }) => deviceId !== '' && deviceId !== 'default')
    .map(({ deviceId, label }, i) => ({ value: deviceId, title: label || `${word} ${i + 1}` }));
const cameras = computed(() => [{ value: USUAL, title: 'the usual one' }, ...titled(videoInputs.value, 'Camera')]);
const microphones = computed(() => [
  { value: NONE, title: 'no sound' },
  { value: USUAL, title: 'the usual one' },
  ...titled(audioInputs.value, 'Microphone'),
]);
const sizes = SIZES.map(([width, height]) => ({ value: String(width), title: `${width} × ${height} px` }));
const rates = [24, 30, 60].map((rate) => ({ value: String(rate), title: `${rate} frames/s` }));
const counts = [0, 3, 5, 10].map((value) => ({ value: String(value), title: value ? `${value} s` : 'none' }));
const lengths = [0, 5, 10, 20, 30, 60, 120].map((value) => ({
  value: String(value),
  title: value ? `${value} s` : 'until stopped',
}));
const set = (next: Partial<RecordSetup>): void => void (setup.value = { ...setup.value, ...next });
</script>

<template>
  <fieldset :disabled="busy">
    <h2>Try</h2>
    <ChoiceRow
      title="Count-down"
      :value="String(setup.countDown)"
      :choices="counts"
      @change="(value) => set({ countDown: Number(value) })"
    />
    <ChoiceRow
      title="Length"
      :value="String(setup.seconds)"
      :choices="lengths"
      @change="(value) => set({ seconds: Number(value) })"
    />
    <el-checkbox :model-value="setup.handsFree" @change="(yes: unknown) => set({ handsFree: yes === true })"
      >Arms crossed over the head start and stop</el-checkbox
    >
    <el-checkbox :model-value="setup.spoken" @change="(yes: unknown) => set({ spoken: yes === true })"
      >Say what is wrong aloud</el-checkbox
    >
    <h2>Seen live</h2>
    <div class="parts">
      <el-checkbox :model-value="setup.fingers" @change="(yes: unknown) => set({ fingers: yes === true })"
        >Hands</el-checkbox
      >
      <el-checkbox :model-value="setup.face" @change="(yes: unknown) => set({ face: yes === true })">Face</el-checkbox>
      <el-checkbox :model-value="setup.figure" @change="(yes: unknown) => set({ figure: yes === true })"
        >Figure</el-checkbox
      >
    </div>
    <p class="quiet">
      Each takes time from the others. Takes are tracked as their own settings say, and come out better than what is
      seen live.
    </p>
    <h2>Camera</h2>
    <ChoiceRow
      title="Kind"
      :value="setup.source"
      :choices="SOURCES"
      @change="(value) => set({ source: value === 'depth' ? 'depth' : 'webcam' })"
    />
    <template v-if="setup.source === 'webcam'">
      <ChoiceRow
        title="Camera"
        :value="cameras.some(({ value }) => value === setup.camera) ? setup.camera : USUAL"
        :choices="cameras"
        @change="(value) => set({ camera: value === USUAL ? '' : value })"
      />
      <ChoiceRow
        title="Microphone"
        :value="
          setup.microphone === null
            ? NONE
            : microphones.some(({ value }) => value === setup.microphone)
              ? setup.microphone
              : USUAL
        "
        :choices="microphones"
        @change="(value) => set({ microphone: value === NONE ? null : value === USUAL ? '' : value })"
      />
      <ChoiceRow
        title="Size"
        :value="String(setup.width)"
        :choices="sizes"
        @change="
          (value) => {
            const [width, height] = SIZES.find(([wide]) => String(wide) === value) ?? SIZES[1];
            set({ width, height });
          }
        "
      />
      <ChoiceRow
        title="Rate"
        :value="String(setup.rate)"
        :choices="rates"
        @change="(value) => set({ rate: Number(value) })"
      />
    </template>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  display: flex;
  flex-direction: column;
  gap: 8px;
  margin: 0;
  min-width: 0;
  padding: 0;
}

.parts {
  display: flex;
  gap: 20px;
}

p {
  font-size: 13px;
  margin: 0;
}

.el-checkbox {
  height: auto;
  margin: 0;
  white-space: normal;
}
</style>
