<script setup lang="ts">
import { useEditedName } from './edited-name';

/** The name at the top of a panel; it wraps, and is changed in place. */
const props = defineProps<{ name: string; label: string; most: number }>();
const emit = defineEmits<{ rename: [name: string] }>();
const { text, done } = useEditedName(
  () => props.name,
  (name) => emit('rename', name),
);
</script>

<template>
  <textarea
    v-model="text"
    class="name"
    rows="1"
    :aria-label="label"
    :maxlength="most"
    @change="done"
    @keydown.enter.prevent="($event.target as HTMLTextAreaElement).blur()"
  ></textarea>
</template>

<style scoped>
.name {
  background: none;
  border: 1px solid transparent;
  border-radius: 6px;
  color: var(--ink);
  field-sizing: content;
  flex: none;
  font: 600 18px/1.2 var(--display);
  margin: -4px -8px 2px;
  padding: 4px 8px;
  resize: none;
}

.name:hover {
  border-color: var(--edge);
}
</style>
