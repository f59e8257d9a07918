<script setup lang="ts">
import { useLocalStorage, useResizeObserver, useVirtualList } from '@vueuse/core';
import { computed, ref } from 'vue';
import { plural } from '../shell/words';
import { useProduction } from '../stores/production';
import { useSending } from '../stores/sending';
import { FOOTAGE_ORDERS, sortedFootage, type FootageOrder } from './footage-order';
import ClipCard from './ClipCard.vue';
import DropZone from './DropZone.vue';
import SendingList from './SendingList.vue';
import { useTitle } from '../shell/title';
import OnceHint from '../shell/OnceHint.vue';

const production = useProduction();
const sending = useSending();

/** Cards lie in rows, so wide at least and so far apart, pixels; only rows in view are made. */
const CARD = 300;
const GAP = 18;
const TEXT = 192;
const width = ref(0);
const words = ref('');
const tag = ref('');
const order = useLocalStorage<FootageOrder>('merry-shadow.footage-order', 'oldest');
const tags = computed(() => [...new Set(production.clips.flatMap((clip) => clip.tags))].sort());
const shown = computed(() =>
  sortedFootage(production.clips, production.takes, { words: words.value, tag: tag.value, order: order.value }),
);
const columns = computed(() => Math.max(1, Math.floor((width.value + GAP) / (CARD + GAP))));
const cardHeight = computed(() => Math.round((((width.value + GAP) / columns.value - GAP) * 9) / 16) + TEXT);
const rows = computed(() =>
  Array.from({ length: Math.ceil(shown.value.length / columns.value) }, (_, i) =>
    shown.value.slice(i * columns.value, (i + 1) * columns.value),
  ),
);
const { list, containerProps, wrapperProps } = useVirtualList(rows, {
  itemHeight: () => cardHeight.value + GAP,
  overscan: 2,
});
useResizeObserver(containerProps.ref, ([{ contentRect }]) => (width.value = contentRect.width));
useTitle('Footage');
</script>

<template>
  <section class="room list">
    <div class="title">
      <h1>Footage</h1>
      <span v-if="production.clips.length" class="quiet number">{{ plural(production.clips.length, 'clip') }}</span>
    </div>
    <OnceHint of="footage" />
    <DropZone
      :roomy="production.loaded && production.clips.length === 0"
      :sending="sending.progress"
      @files="sending.add"
    />
    <SendingList
      v-if="sending.files.length"
      :files="sending.files"
      @cancel="sending.cancel"
      @remove="sending.remove"
      @again="sending.again"
    />
    <div v-if="production.clips.length > 1" class="tools">
      <el-input
        v-model="words"
        class="search"
        clearable
        placeholder="Search names, tags and notes"
        aria-label="Search footage"
      />
      <el-select v-if="tags.length" v-model="tag" class="choice" clearable placeholder="All tags" aria-label="Tag">
        <el-option v-for="item in tags" :key="item" :value="item" :label="item" />
      </el-select>
      <el-select v-model="order" class="choice" aria-label="Order">
        <el-option v-for="(title, value) in FOOTAGE_ORDERS" :key="value" :value="value" :label="title" />
      </el-select>
      <span v-if="shown.length < production.clips.length" class="quiet number" role="status"
        >{{ shown.length }} of {{ production.clips.length }}</span
      >
    </div>
    <p v-if="production.clips.length && shown.length === 0" class="quiet">No clip is like that.</p>
    <div v-bind="containerProps" class="scroll">
      <div v-bind="wrapperProps">
        <div
          v-for="row in list"
          :key="row.index"
          class="cards"
          :style="{ gridTemplateColumns: `repeat(${columns}, 1fr)` }"
        >
          <ClipCard v-for="clip in row.data" :key="clip.id" :clip="clip" :style="{ height: `${cardHeight}px` }" />
        </div>
      </div>
    </div>
  </section>
</template>

<style scoped>
.scroll {
  flex: 1;
  min-height: 320px;
}

.search {
  width: 280px;
}

.choice {
  width: 190px;
}

.cards {
  display: grid;
  gap: 18px;
  padding-bottom: 18px;
}
</style>
