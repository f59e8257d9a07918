<script setup lang="ts">
import { PhFilmReel } from '@phosphor-icons/vue';
import { ElMessage, ElMessageBox } from 'element-plus';
import { ref } from 'vue';
import { plural } from '../shell/words';
import type { Footage } from '../stores/sending';
import { asSequence, droppedFiles, pickedFiles, sortFound, withTheirDepth, type FoundFile } from './dropped-files';

defineProps<{ roomy: boolean; sending: number | null }>();
const emit = defineEmits<{ files: [files: Footage[]] }>();
const over = ref(false);
const picker = ref<HTMLInputElement>();
const folderPicker = ref<HTMLInputElement>();

async function drop(event: DragEvent): Promise<void> {
  over.value = false;
  if (event.dataTransfer) await take(await droppedFiles(event.dataTransfer));
}

async function picked(input: HTMLInputElement | undefined): Promise<void> {
  const found = input?.files ? pickedFiles(input.files) : [];
  if (input) input.value = '';
  if (found.length > 0) await take(found);
}

async function take(found: readonly FoundFile[]): Promise<void> {
  const { files, sequences } = sortFound(found);
  const footage: Footage[] = withTheirDepth(files);
  for (const [folder, pictures] of sequences) {
    const rate = await askRate(folder, pictures.length);
    if (rate !== null) footage.push(asSequence(folder, pictures, rate));
  }
  if (footage.length > 0) emit('files', footage);
  else if (sequences.size === 0) ElMessage({ type: 'warning', message: 'There is no video and no picture in it.' });
}

/** How fast pictures of a folder follow each other. */
async function askRate(folder: string, count: number): Promise<number | null> {
  const answer = await ElMessageBox.prompt(
    `“${folder.replace(/^\//, '')}” holds ${plural(count, 'picture')}. How many are shown in a second?`,
    'A folder of pictures',
    {
      inputValue: '30',
      inputValidator: (text) => (Number(text) >= 1 && Number(text) <= 240) || 'A number from 1 to 240 is needed.',
      confirmButtonText: 'Bring in',
      cancelButtonText: 'Leave out',
    },
  ).catch(() => null);
  return answer ? Number(answer.value) : null;
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
      <span class="quiet"
        >Drop any number of videos, or folders of videos or pictures, here. They stay on this computer.</span
      >
    </div>
    <div class="choose">
      <el-button type="primary" :size="roomy ? 'large' : 'default'" @click="picker?.click()">Choose videos</el-button>
      <el-button :size="roomy ? 'large' : 'default'" @click="folderPicker?.click()">Choose a folder</el-button>
    </div>
    <input
      ref="picker"
      type="file"
      accept="video/*,.mkv,.mts,.m2ts,.gif"
      multiple
      hidden
      data-testid="footage-files"
      @change="picked(picker)"
    />
    <input
      ref="folderPicker"
      type="file"
      webkitdirectory
      multiple
      hidden
      data-testid="footage-folder"
      @change="picked(folderPicker)"
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
.choose {
  display: flex;
}
</style>
