<script setup lang="ts">
import { computed } from 'vue';
import { passNamed } from '@merry-shadow/core/passes/registry';
import NumberRow from '../shell/NumberRow.vue';
import ChoiceRow from '../shell/ChoiceRow.vue';
import { passFields } from './pass-fields';

/** The options of one pass, as its schema tells them. */
const props = defineProps<{ pass: string; options: Record<string, unknown> }>();
const emit = defineEmits<{ change: [options: Record<string, unknown>] }>();
const fields = computed(() => passFields(passNamed(props.pass)));
const set = (name: string, value: unknown): void => emit('change', { ...props.options, [name]: value });
const numeric = (name: string, standard: number): number => Number(props.options[name] ?? standard);
</script>

<template>
  <template v-for="field in fields" :key="field.name">
    <NumberRow
      v-if="field.kind === 'number'"
      :title="field.title"
      :label="field.title"
      :unit="field.unit"
      :value="numeric(field.name, field.standard)"
      :min="field.least"
      :max="field.most"
      :step="field.step"
      :precision="field.precision"
      @change="(value) => set(field.name, value ?? field.standard)"
    />
    <el-checkbox
      v-else-if="field.kind === 'check'"
      :model-value="Boolean(options[field.name] ?? field.standard)"
      size="small"
      @change="(on: boolean) => set(field.name, on)"
      >{{ field.title }}</el-checkbox
    >
    <ChoiceRow
      v-else
      :title="field.title"
      :value="String(options[field.name] ?? field.standard)"
      :choices="Object.entries(field.choices).map(([value, title]) => ({ value, title }))"
      @change="(value) => set(field.name, value)"
    />
  </template>
</template>
