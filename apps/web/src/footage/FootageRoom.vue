<script setup lang="ts">
import { useResizeObserver, useVirtualList } from '@vueuse/core';
import { computed, ref } from 'vue';
import { plural } from '../shell/words';
import { useProduction } from '../stores/production';
import { useSending } from '../stores/sending';
import ClipCard from './ClipCard.vue';
import DropZone from './DropZone.vue';
import SendingList from './SendingList.vue';
import { useTitle } from '../shell/title';

const production = useProduction();
const sending = useSending();

/** Cards lie in rows, so wide at least and so far apart, pixels; only rows in view are made. */
const CARD = 300;
const GAP = 18;
const TEXT = 168;
const width = ref(0);
const columns = computed(() => Math.max(1, Math.floor((width.value + GAP) / (CARD + GAP))));
const cardHeight = computed(() => Math.round((((width.value + GAP) / columns.value - GAP) * 9) / 16) + TEXT);
const rows = computed(() =>
  Array.from({ length: Math.ceil(production.clips.length / columns.value) }, (_, i) =>
    production.clips.slice(i * columns.value, (i + 1) * columns.value),
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
  <section class="room">
    <div class="title">
      <h1>Footage</h1>
      <span v-if="production.clips.length" class="quiet number">{{ plural(production.clips.length, 'clip') }}</span>
    </div>
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
.room {
  display: flex;
  flex-direction: column;
  gap: 18px;
  height: 100%;
  margin: 0 auto;
  max-width: 1180px;
  padding: 26px 28px 0;
}

.scroll {
  flex: 1;
  min-height: 320px;
}

.title {
  align-items: baseline;
  display: flex;
  gap: 14px;
}

.cards {
  display: grid;
  gap: 18px;
  padding-bottom: 18px;
}
</style>
