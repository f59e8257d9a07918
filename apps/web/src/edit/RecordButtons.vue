<script setup lang="ts">
import { PhEye, PhEyeSlash, PhTrash } from '@phosphor-icons/vue';
import IconButton from '../shell/IconButton.vue';

/** Leaves an edit out or uses it again, and removes it. */
defineProps<{ title: string; muted: boolean }>();
const emit = defineEmits<{ mute: [muted: boolean]; remove: [] }>();
</script>

<template>
  <IconButton
    :icon="muted ? PhEyeSlash : PhEye"
    :label="muted ? `Use ${title}` : `Leave ${title} out`"
    :pressed="!muted"
    @click="emit('mute', !muted)"
  />
  <IconButton :icon="PhTrash" :label="`Remove ${title}`" @click="emit('remove')" />
</template>
