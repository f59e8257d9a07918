<script setup lang="ts">
import { PhArrowsClockwise } from '@phosphor-icons/vue';
import { computed, ref, watch } from 'vue';
import { changeClip } from '../api/client';
import { attempt } from '../shell/trouble';
import { bytes, rate, seconds } from '../shell/words';
import { useProduction } from '../stores/production';
import { useSending } from '../stores/sending';
import { useOpenClip } from './open-clip';

/** What a person keeps with a clip, what the file is, and a better file in its place. */
const { id, clip, facts } = useOpenClip();
const production = useProduction();
const sending = useSending();
const tags = ref<string[]>([]);
const notes = ref('');
// What is being written is not disturbed by news of something else.
watch(
  () => clip.value?.tags.join('\n') ?? '',
  (joined) => (tags.value = joined ? joined.split('\n') : []),
  { immediate: true },
);
watch(
  () => clip.value?.notes ?? '',
  (now) => (notes.value = now),
  { immediate: true },
);
const known = (): string[] => [...new Set(production.clips.flatMap((item) => item.tags))].sort();
const picker = ref<HTMLInputElement>();
function replace(): void {
  const [file] = picker.value?.files ?? [];
  if (file) void sending.add([file], id);
  if (picker.value) picker.value.value = '';
}
const together = computed(() =>
  (clip.value?.together ?? []).flatMap(({ clipId, offset }) => {
    const other = production.clip(clipId);
    return other ? [{ other, offset }] : [];
  }),
);
const onTheWay = (): boolean => sending.files.some(({ to }) => 'replaces' in to && to.replaces === id);
</script>

<template>
  <h2>Tags</h2>
  <el-select
    v-model="tags"
    multiple
    filterable
    allow-create
    default-first-option
    :reserve-keyword="false"
    placeholder="Add a tag"
    aria-label="Tags"
    @change="(next: string[]) => attempt(() => changeClip(id, { tags: next }))"
  >
    <el-option v-for="tag in known()" :key="tag" :value="tag" :label="tag" />
  </el-select>
  <h2>Notes</h2>
  <el-input
    v-model="notes"
    type="textarea"
    :autosize="{ minRows: 3, maxRows: 10 }"
    maxlength="4000"
    aria-label="Notes"
    @change="attempt(() => changeClip(id, { notes }))"
  />
  <template v-if="facts">
    <h2>File</h2>
    <dl class="number">
      <dt>Length</dt>
      <dd>{{ seconds(facts.seconds) }} · {{ facts.frames }} frames</dd>
      <dt>Picture</dt>
      <dd>{{ facts.width }} × {{ facts.height }} px</dd>
      <dt>Rate</dt>
      <dd>{{ rate(facts.rate) }}</dd>
      <dt>Codec</dt>
      <dd>{{ facts.codec }}{{ facts.rotation ? ` · turned by ${facts.rotation}°` : '' }}</dd>
      <dt>Sound</dt>
      <dd>{{ facts.hasSound ? 'yes' : 'none' }}</dd>
      <template v-if="facts.hasDepth">
        <dt>Depth</dt>
        <dd>measured by a depth camera</dd>
      </template>
      <dt>Lens</dt>
      <dd>{{ facts.fieldOfView ? `${facts.fieldOfView}° across` : 'not told by the file' }}</dd>
      <dt>Size</dt>
      <dd>{{ bytes(facts.bytes) }}</dd>
    </dl>
  </template>
  <template v-if="together.length">
    <h2>Recorded at the same time</h2>
    <p class="hint quiet">Lined up by their sound.</p>
    <ul>
      <li v-for="{ other, offset } in together" :key="other.id">
        <RouterLink :to="{ name: 'clip', params: { id: other.id } }">{{ other.name }}</RouterLink>
        <span class="quiet number"
          >begins {{ Math.abs(offset).toFixed(3) }} s {{ offset < 0 ? 'earlier' : 'later' }}</span
        >
      </li>
    </ul>
  </template>
  <p class="hint quiet">A better file of the same performance can take its place. Takes, settings and edits stay.</p>
  <el-button :disabled="onTheWay()" @click="picker?.click()"
    ><PhArrowsClockwise :size="17" />{{ onTheWay() ? 'On its way' : 'Replace the file' }}</el-button
  >
  <input
    ref="picker"
    type="file"
    accept="video/*,.mkv,.mts,.m2ts,.gif"
    hidden
    data-testid="replace-file"
    @change="replace"
  />
</template>

<style scoped>
dl {
  display: grid;
  gap: 2px 12px;
  grid-template-columns: auto 1fr;
  margin: 0;
}

ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  display: flex;
  gap: 10px;
  justify-content: space-between;
}

li a {
  color: var(--amber);
  font-weight: 600;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

li span {
  flex: none;
}

dt {
  color: var(--ink-soft);
}

dd {
  margin: 0;
  text-align: right;
}
</style>
