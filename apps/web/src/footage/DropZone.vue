<script setup lang="ts">
import { PhFilmReel } from '@phosphor-icons/vue';
import { ref } from 'vue';

defineProps<{ roomy: boolean; sending: number | null }>();
const emit = defineEmits<{ files: [files: File[]] }>();
const over = ref(false);
const picker = ref<HTMLInputElement>();

function drop(event: DragEvent): void {
  over.value = false;
  take(event.dataTransfer?.files);
}

function take(list: FileList | null | undefined): void {
  if (list && list.length > 0) emit('files', [...list]);
  if (picker.value) picker.value.value = '';
}
</script>

<template>
  <div
    class="drop"
    :class="{ over, roomy }"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="drop"
  >
    <PhFilmReel :size="roomy ? 56 : 30" weight="duotone" class="reel" />
    <div class="words">
      <strong>{{ roomy ? 'Bring in your footage' : 'Bring in more footage' }}</strong>
      <span class="quiet">Drop any number of phone, webcam or camera videos here. They stay on this computer.</span>
    </div>
    <el-button type="primary" :size="roomy ? 'large' : 'default'" @click="picker?.click()">Choose videos</el-button>
    <input
      ref="picker"
      type="file"
      accept="video/*,.mkv,.mts,.m2ts"
      multiple
      hidden
      data-testid="footage-files"
      @change="take(picker?.files)"
    />
    <el-progress
      v-if="sending !== null"
      class="sending"
      :percentage="Math.round(sending * 100)"
      :stroke-width="6"
      aria-label="Sending"
    />
  </div>
</template>

<style scoped>
.drop {
  align-items: center;
  background: var(--sheet);
  border: 2px dashed var(--edge);
  border-radius: var(--radius);
  display: flex;
  flex-wrap: wrap;
  gap: 14px 18px;
  padding: 16px 20px;
  transition: background 0.15s;
}

.drop.over {
  background: var(--amber-wash);
  border-color: var(--amber);
}

.drop.roomy {
  flex-direction: column;
  gap: 22px;
  padding: 72px 24px;
  text-align: center;
}

.reel {
  color: var(--amber);
}

.words {
  display: flex;
  flex: 1;
  flex-direction: column;
}

.roomy .words strong {
  font: 600 24px var(--display);
}

.sending {
  flex-basis: 100%;
}
</style>
