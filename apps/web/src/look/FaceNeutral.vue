<script setup lang="ts">
import { PhSmileyMeh } from '@phosphor-icons/vue';
import { useOpenTake } from '../take/open-take';
import PickedFrame from './PickedFrame.vue';

/** Which frame shows the face at rest, against which its shapes are told: it is found, or a person picks one. */
const { take, set } = useOpenTake();
</script>

<template>
  <PickedFrame
    v-if="take"
    :picked="take.settings.neutral"
    words="Face at rest on frame"
    :found="null"
    nothing="Face at rest: found in the take"
    button="Face at rest on this frame"
    :icon="PhSmileyMeh"
    again="Find the face at rest again"
    @pick="(neutral) => set('face at rest', { neutral })"
  />
</template>
