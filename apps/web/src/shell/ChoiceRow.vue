<script setup lang="ts">
/** One of some choices, with its name. */
defineProps<{
  title: string;
  value: string;
  /** A note stands small behind the title in the list. */
  choices: readonly { value: string; title: string; note?: string }[];
}>();
const emit = defineEmits<{ change: [value: string] }>();
</script>

<template>
  <label>
    <span>{{ title }}</span>
    <el-select
      :model-value="value"
      size="small"
      :aria-label="title"
      @change="(chosen: string) => emit('change', chosen)"
    >
      <el-option v-for="choice in choices" :key="choice.value" :value="choice.value" :label="choice.title">
        <span class="choice"
          >{{ choice.title }}<em>{{ choice.note }}</em></span
        >
      </el-option>
    </el-select>
  </label>
</template>

<style scoped>
label {
  align-items: center;
  display: grid;
  gap: 8px;
  grid-template-columns: auto minmax(0, 190px);
  justify-content: space-between;
}

.choice {
  display: flex;
  gap: 16px;
  justify-content: space-between;
}

em {
  color: var(--ink-soft);
  font-style: normal;
}
</style>
