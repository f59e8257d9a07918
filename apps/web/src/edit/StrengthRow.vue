<script setup lang="ts">
/** How much of an edit counts, 0 … 1. */
defineProps<{ value: number }>();
const emit = defineEmits<{ change: [strength: number] }>();
</script>

<template>
  <div class="strength">
    <span>Strength</span>
    <el-slider
      :model-value="Math.round(value * 100)"
      :step="5"
      size="small"
      :format-tooltip="(percent: number) => `${percent} %`"
      aria-label="Strength"
      @change="(percent: number) => emit('change', percent / 100)"
    /><span class="number">{{ Math.round(value * 100) }} %</span>
  </div>
</template>

<style scoped>
.strength {
  align-items: center;
  display: flex;
  font-size: 14px;
  justify-content: space-between;
}

.el-slider {
  flex: 1;
  margin: 0 14px;
}
</style>
