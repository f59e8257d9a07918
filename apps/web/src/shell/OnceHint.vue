<script setup lang="ts">
import { PhLightbulb } from '@phosphor-icons/vue';
import { ONCE_HINTS, useOnceHints, type OnceHint } from './once-hints';

/** A hint for who does something for the first time: told once, and not at all where hints are switched off. */
defineProps<{ of: OnceHint }>();
const hints = useOnceHints();
</script>

<template>
  <aside v-if="hints.isTold(of)" class="once" aria-label="Hint">
    <PhLightbulb :size="18" weight="bold" aria-hidden="true" />
    <p>{{ ONCE_HINTS[of] }}</p>
    <span class="do">
      <el-button text size="small" @click="hints.read(of)">Understood</el-button>
      <el-button text size="small" @click="hints.switchOff">No more hints</el-button>
    </span>
  </aside>
</template>

<style scoped>
.once {
  background: var(--amber-wash);
  border-radius: var(--radius);
  display: grid;
  font-size: 14px;
  gap: 2px 8px;
  grid-template-columns: auto minmax(0, 1fr);
  line-height: 1.35;
  padding: 8px 10px;
}

p {
  margin: 0;
}

.do {
  display: flex;
  gap: 10px;
  grid-column: 2;
}

.do .el-button {
  margin: 0;
  padding: 2px 0;
}
</style>
