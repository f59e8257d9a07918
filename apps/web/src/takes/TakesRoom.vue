<script setup lang="ts">
import { PhArrowRight, PhTrash } from '@phosphor-icons/vue';
import { useMediaQuery, useVirtualList } from '@vueuse/core';
import { ElMessageBox } from 'element-plus';
import { computed } from 'vue';
import type { TakeView } from '@merry-shadow/contracts/take';
import { captureTake, clipFile, removeTake } from '../api/client';
import { attempt } from '../shell/trouble';
import { plural, seconds } from '../shell/words';
import { useProduction } from '../stores/production';
import RunLine from './RunLine.vue';
import { useTitle } from '../shell/title';

const production = useProduction();

/** Rows are so far apart, pixels; in a narrow window they are two lines high. Only those in view are made. */
const GAP = 10;
const narrow = useMediaQuery('(max-width: 860px)');
const rowHeight = computed(() => (narrow.value ? 132 : 94) + GAP);
const { list, containerProps, wrapperProps } = useVirtualList(
  computed(() => [...production.takes]),
  { itemHeight: () => rowHeight.value, overscan: 6 },
);

function length(take: TakeView): string {
  const facts = production.clip(take.clipId)?.facts;
  return facts ? seconds((take.untilFrame - take.fromFrame) / facts.rate) : '';
}

/** Takes that were never tracked, or whose tracking came to nothing. */
const untracked = computed(() =>
  production.takes.filter((take) => take.run === null || take.run.state === 'failed' || take.run.state === 'cancelled'),
);

async function trackAll(): Promise<void> {
  await attempt(async () => {
    for (const { id } of untracked.value) await captureTake(id);
  });
}

async function remove(take: TakeView): Promise<void> {
  const sure = await ElMessageBox.confirm(
    `“${take.name}” and what was tracked of it will be removed. The clip stays.`,
    'Remove this take?',
    { confirmButtonText: 'Remove', cancelButtonText: 'Keep', confirmButtonClass: 'el-button--danger' },
  ).catch(() => null);
  if (sure) await attempt(() => removeTake(take.id));
}
useTitle('Takes');
</script>

<template>
  <section class="room">
    <div class="title">
      <h1>Takes</h1>
      <span v-if="production.takes.length" class="quiet number">{{ plural(production.takes.length, 'take') }}</span>
      <el-button v-if="untracked.length > 1" class="all" type="primary" plain @click="trackAll"
        >Track the {{ untracked.length }} that wait for it</el-button
      >
    </div>
    <div v-if="production.loaded && production.takes.length === 0" class="empty">
      <h2>No takes yet</h2>
      <p class="quiet">
        A take is the good part of a clip. Bring in footage first; each clip starts with one take over its whole length.
      </p>
      <RouterLink :to="{ name: 'footage' }">Bring in footage</RouterLink>
    </div>
    <div v-else v-bind="containerProps" class="scroll">
      <ol v-bind="wrapperProps">
        <li v-for="{ data: take } in list" :key="take.id" :style="{ height: `${rowHeight - GAP}px` }">
          <img :src="clipFile(take.clipId, 'poster')" alt="" loading="lazy" />
          <div class="who">
            <RouterLink :to="{ name: 'take', params: { id: take.id } }"
              >{{ take.name }}<PhArrowRight :size="16"
            /></RouterLink>
            <span class="quiet number"
              >{{ production.clip(take.clipId)?.name }} · frames {{ take.fromFrame }} to {{ take.untilFrame - 1 }} ·
              {{ length(take) }}</span
            >
          </div>
          <RunLine :take="take" class="run" />
          <el-button text class="bin" :aria-label="`Remove ${take.name}`" @click="remove(take)"
            ><PhTrash :size="17"
          /></el-button>
        </li>
      </ol>
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
  padding-bottom: 40px;
}

.title {
  align-items: baseline;
  display: flex;
  gap: 14px;
}

.all {
  margin-left: auto;
}

.empty {
  background: var(--sheet);
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  padding: 44px;
  text-align: center;
}

.empty a {
  color: var(--amber);
  font-weight: 600;
}

ol {
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  align-items: center;
  box-sizing: border-box;
  background: var(--sheet);
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  display: grid;
  gap: 16px;
  grid-template-columns: 112px minmax(200px, 1fr) minmax(280px, 420px) auto;
  margin-bottom: 10px;
  padding: 10px 14px 10px 10px;
}

img {
  aspect-ratio: 16 / 9;
  background: var(--screen);
  border-radius: 6px;
  object-fit: cover;
  width: 112px;
}

.who {
  display: flex;
  flex-direction: column;
  min-width: 0;
}

.who a {
  align-items: center;
  color: var(--ink);
  display: inline-flex;
  font-size: 16px;
  font-weight: 650;
  gap: 7px;
  text-decoration: none;
}

.who a:hover {
  color: var(--amber);
}

.bin {
  color: var(--ink-soft);
  padding: 6px;
}

.bin:hover {
  color: var(--berry);
}

@media (max-width: 860px) {
  li {
    grid-template-columns: 88px 1fr auto;
  }

  img {
    width: 88px;
  }

  .run {
    grid-column: 1 / -1;
    grid-row: 2;
  }
}
</style>
