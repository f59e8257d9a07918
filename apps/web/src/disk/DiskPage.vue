<script setup lang="ts">
import { ElMessageBox } from 'element-plus';
import { computed, ref, shallowRef } from 'vue';
import type { MediaPart, MediaShare, MediaView } from '@merry-shadow/contracts/media';
import { dropMedia, fetchMedia } from '../api/client';
import { attempt } from '../shell/trouble';
import { useTitle } from '../shell/title';
import { bytes, plural } from '../shell/words';

/** What takes how much on the disk; what can be made again is dropped here. */
const media = shallowRef<MediaView | null>(null);
const chosen = ref<MediaShare[]>([]);
const reload = (): Promise<boolean> => attempt(async () => (media.value = await fetchMedia()));
void reload();

const PARTS: Record<MediaPart, { title: string; what: string; comes: string }> = {
  prepared: {
    title: 'Prepared videos',
    what: 'The videos that are shown and tracked.',
    comes: 'They are made again from the originals when a clip is opened or tracked.',
  },
  tracked: {
    title: 'What was tracked',
    what: 'Marks of body, hands and face of the takes. Edits stay.',
    comes: 'The takes have to be tracked again.',
  },
  older: {
    title: 'Older trackings',
    what: 'What was tracked of takes before they were tracked again.',
    comes: 'It is not used any more.',
  },
};
const sum = (key: keyof MediaShare & ('original' | MediaPart), list: readonly MediaShare[]): number =>
  list.reduce((total, share) => total + share[key], 0);
const total = (share: MediaShare): number => share.original + share.prepared + share.tracked + share.older;
const rows = computed(() => [...(media.value?.clips ?? [])].sort((a, b) => total(b) - total(a)));
const affected = computed(() => (chosen.value.length > 0 ? chosen.value : rows.value));

async function drop(part: MediaPart): Promise<void> {
  const list = affected.value.filter((share) => share[part] > 0);
  const sure = await ElMessageBox.confirm(
    `${PARTS[part].what} ${plural(list.length, 'clip')}, ${bytes(sum(part, list))}. ${PARTS[part].comes}`,
    `Drop ${PARTS[part].title.toLowerCase()}?`,
    { confirmButtonText: 'Drop', cancelButtonText: 'Keep' },
  ).catch(() => null);
  if (!sure) return;
  await attempt(() =>
    dropMedia(
      list.map(({ clipId }) => clipId),
      part,
    ),
  );
  await reload();
}
const size = (value: number): string => (value > 0 ? bytes(value) : '–');
useTitle('Disk');
</script>

<template>
  <section class="room list">
    <div class="title">
      <h1>Disk</h1>
      <span v-if="media" class="quiet number">{{ bytes(media.free) }} free</span>
    </div>
    <p v-if="media" class="quiet">
      Everything lies in <code>{{ media.folder }}</code>. Work waits when less than {{ bytes(media.room) }} is free.
    </p>
    <div v-if="media" class="parts">
      <div class="part">
        <strong>Originals</strong>
        <span class="number">{{ bytes(sum('original', rows)) }}</span>
        <p class="quiet">Your files, as they were brought in. They go only with their clips.</p>
      </div>
      <div v-for="(words, part) in PARTS" :key="part" class="part">
        <strong>{{ words.title }}</strong>
        <span class="number">{{ size(sum(part, rows)) }}</span>
        <p class="quiet">{{ words.what }} {{ words.comes }}</p>
        <el-button size="small" :disabled="sum(part, affected) === 0" @click="drop(part)"
          >Drop {{ chosen.length ? `those of ${plural(chosen.length, 'clip')}` : 'all' }}</el-button
        >
      </div>
    </div>
    <el-table
      v-if="media"
      :data="rows"
      row-key="clipId"
      empty-text="No clips yet"
      @selection-change="(list: MediaShare[]) => (chosen = list)"
    >
      <el-table-column type="selection" width="44" label="Choose" />
      <el-table-column label="Clip" prop="name" sortable min-width="220">
        <template #default="{ row }"
          ><RouterLink :to="{ name: 'clip', params: { id: row.clipId } }">{{ row.name }}</RouterLink></template
        >
      </el-table-column>
      <el-table-column label="Production" prop="production" sortable min-width="150" />
      <el-table-column
        v-for="key in ['original', 'prepared', 'tracked', 'older'] as const"
        :key="key"
        :label="{ original: 'Original', prepared: 'Prepared', tracked: 'Tracked', older: 'Older' }[key]"
        :prop="key"
        sortable
        align="right"
        width="118"
      >
        <template #default="{ row }"
          ><span class="number">{{ size(row[key]) }}</span></template
        >
      </el-table-column>
    </el-table>
  </section>
</template>

<style scoped>
.room {
  height: auto;
  padding-bottom: 40px;
}

p {
  margin: 0;
}

code {
  user-select: all;
}

.parts {
  display: grid;
  gap: 14px;
  grid-template-columns: repeat(auto-fit, minmax(230px, 1fr));
}

.part {
  align-content: start;
  background: var(--sheet);
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  display: grid;
  gap: 4px 10px;
  grid-template-columns: 1fr auto;
  padding: 12px 14px;
}

.part p {
  font-size: 13.5px;
  grid-column: 1 / -1;
}

.part .el-button {
  grid-column: 1 / -1;
  justify-self: start;
}

a {
  color: var(--amber);
  font-weight: 600;
}
</style>
