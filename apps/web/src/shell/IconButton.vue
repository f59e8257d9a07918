<script setup lang="ts">
import type { Component } from 'vue';

/** A small button that shows a sign; its name is told to who can't see it, and when the pointer rests on it. */
defineProps<{ icon: Component; label: string; title?: string; pressed?: boolean; disabled?: boolean }>();
</script>

<template>
  <el-button
    text
    size="small"
    class="sign"
    :aria-label="label"
    :aria-pressed="pressed"
    :title="title"
    :disabled="disabled"
    ><component :is="icon" :size="16" :weight="pressed ? 'fill' : 'regular'"
  /></el-button>
</template>

<style scoped>
.sign.el-button {
  margin: 0;
  padding: 4px;
}
</style>
