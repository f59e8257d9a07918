<script setup lang="ts">
import { computed } from 'vue';
import { passNamed } from '@merry-shadow/core/passes/registry';
import NumberRow from '../look/NumberRow.vue';
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
    <label v-else-if="field.kind === 'check'" class="check"
      ><input
        type="checkbox"
        :checked="Boolean(options[field.name] ?? field.standard)"
        @change="set(field.name, ($event.target as HTMLInputElement).checked)"
      />{{ field.title }}</label
    >
    <label v-else class="choice"
      >{{ field.title }}
      <select
        :value="options[field.name] ?? field.standard"
        @change="set(field.name, ($event.target as HTMLSelectElement).value)"
      >
        <option v-for="(title, value) in field.choices" :key="value" :value="value">{{ title }}</option>
      </select></label
    >
  </template>
</template>

<style scoped>
.check {
  align-items: center;
  cursor: pointer;
  display: flex;
  font-size: 14px;
  gap: 6px;
}

.check input {
  accent-color: var(--amber);
}

.choice {
  align-items: center;
  display: flex;
  font-size: 14px;
  gap: 8px;
  justify-content: space-between;
}

select {
  background: var(--paper);
  border: 1px solid var(--edge);
  border-radius: 6px;
  color: var(--ink);
  font: inherit;
  max-width: 150px;
  padding: 3px 6px;
}
</style>
