<script setup lang="ts">
import { ref, watch } from 'vue';

/** A name that is changed when it is done; what is empty is put back. */
const props = defineProps<{ name: string; label: string; most: number }>();
const emit = defineEmits<{ rename: [name: string] }>();
const text = ref(props.name);
watch(
  () => props.name,
  (now) => (text.value = now),
);
function done(): void {
  const wanted = text.value.trim();
  if (wanted === '' || wanted === props.name) text.value = props.name;
  else emit('rename', wanted);
}
</script>

<template>
  <el-input v-model="text" :aria-label="label" :maxlength="most" @change="done" />
</template>
