<script setup lang="ts">
import { plural } from '../shell/words';
import { useProduction } from '../stores/production';
import { useSending } from '../stores/sending';
import ClipCard from './ClipCard.vue';
import DropZone from './DropZone.vue';
import SendingList from './SendingList.vue';
import { useTitle } from '../shell/title';

const production = useProduction();
const sending = useSending();
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
    <div class="cards">
      <ClipCard v-for="clip in production.clips" :key="clip.id" :clip="clip" />
    </div>
  </section>
</template>

<style scoped>
.room {
  display: flex;
  flex-direction: column;
  gap: 18px;
  margin: 0 auto;
  max-width: 1180px;
  padding: 26px 28px 60px;
}

.title {
  align-items: baseline;
  display: flex;
  gap: 14px;
}

.cards {
  display: grid;
  gap: 18px;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
}
</style>
