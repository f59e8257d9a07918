<script setup lang="ts">
/** One number with its name and unit. Empty means that the placeholder's value holds. */
defineProps<{
  title: string;
  label: string;
  unit: string;
  value: number | null;
  min: number;
  max: number;
  step: number;
  precision: number;
  placeholder?: string;
}>();
const emit = defineEmits<{ change: [value: number | null] }>();
</script>

<template>
  <label>
    <span>{{ title }}</span>
    <el-input-number
      :model-value="value ?? undefined"
      :min="min"
      :max="max"
      :step="step"
      :precision="precision"
      size="small"
      :placeholder="placeholder"
      :aria-label="label"
      @change="(changed: number | undefined) => emit('change', changed ?? null)"
    />
    <em>{{ unit }}</em>
  </label>
</template>

<style scoped>
label {
  align-items: center;
  display: grid;
  gap: 8px;
  grid-template-columns: 1fr 118px minmax(14px, auto);
}

em {
  color: var(--ink-soft);
  font-style: normal;
}

.el-input-number {
  width: 118px;
}
</style>
