<script setup lang="ts">
import { PhArrowClockwise, PhX } from '@phosphor-icons/vue';
import { computed } from 'vue';
import { bytes, plural } from '../shell/words';
import type { SentFile } from '../stores/sending';

const props = defineProps<{ files: SentFile[] }>();
const emit = defineEmits<{ cancel: [id: number]; remove: [id: number]; again: [id: number] }>();

/** Many files wait in one line. */
const SHOWN = 6;
const shown = computed(() => [
  ...props.files.filter((item) => item.state === 'failed'),
  ...props.files.filter((item) => item.state === 'sending'),
  ...props.files.filter((item) => item.state === 'waiting').slice(0, SHOWN),
]);
const hidden = computed(() => props.files.length - shown.value.length);
</script>

<template>
  <ul class="files" aria-label="Files on their way in">
    <li v-for="item in shown" :key="item.id" :class="item.state">
      <span class="name" :title="item.name">{{ item.name }}</span>
      <span v-if="item.state === 'failed'" class="problem" role="alert">{{ item.problem }}</span>
      <span v-else-if="item.state === 'waiting'" class="quiet number">waits · {{ bytes(item.size) }}</span>
      <el-progress
        v-else
        :percentage="Math.round((item.sent / Math.max(1, item.size)) * 100)"
        :stroke-width="6"
        :aria-label="`Sending ${item.name}`"
      />
      <el-button
        v-if="item.state === 'failed'"
        size="small"
        :icon="PhArrowClockwise"
        :aria-label="item.known ? `Bring in ${item.name} once more` : `Send ${item.name} again`"
        @click="emit('again', item.id)"
        >{{ item.known ? 'Bring in once more' : 'Send again' }}</el-button
      >
      <el-button
        size="small"
        text
        :icon="PhX"
        :aria-label="item.state === 'failed' ? `Put ${item.name} away` : `Stop sending ${item.name}`"
        @click="item.state === 'failed' ? emit('remove', item.id) : emit('cancel', item.id)"
      />
    </li>
    <li v-if="hidden > 0" class="quiet number">and {{ plural(hidden, 'more file') }}</li>
  </ul>
</template>

<style scoped>
.files {
  background: var(--sheet);
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  display: flex;
  flex-direction: column;
  gap: 4px;
  list-style: none;
  margin: 0;
  padding: 10px 16px;
}

li {
  align-items: center;
  display: flex;
  gap: 12px;
  min-height: 30px;
}

.name {
  flex: 0 1 260px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.el-progress,
.problem,
.waiting .quiet {
  flex: 1;
}

.problem {
  color: var(--berry);
}
</style>
