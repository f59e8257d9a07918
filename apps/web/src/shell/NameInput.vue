<script setup lang="ts">
import { useEditedName } from './edited-name';

/** A name in a form. */
const props = defineProps<{ name: string; label: string; most: number }>();
const emit = defineEmits<{ rename: [name: string] }>();
const { text, done } = useEditedName(
  () => props.name,
  (name) => emit('rename', name),
);
</script>

<template>
  <el-input v-model="text" :aria-label="label" :maxlength="most" @change="done" />
</template>
