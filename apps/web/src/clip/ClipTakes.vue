<script setup lang="ts">
import { PhArrowDown, PhArrowRight, PhArrowUp, PhCopySimple, PhPlus, PhStar, PhTrash } from '@phosphor-icons/vue';
import { computed } from 'vue';
import type { TakeView } from '@merry-shadow/contracts/take';
import { duplicateTake, listTake } from '../api/client';
import CommandButton from '../commands/CommandButton.vue';
import IconButton from '../shell/IconButton.vue';
import { attempt } from '../shell/trouble';
import { useProduction } from '../stores/production';
import RunLine from '../takes/RunLine.vue';
import { useOpenClip } from './open-clip';

/** Takes of the clip: which is the best, copies, order, thrown away and brought back; parts that are offered as takes. */
const open = useOpenClip();
const { takes, chosenId, facts, offered } = open;
const production = useProduction();
const gone = computed(() => production.thrownAway.filter((take) => take.clipId === open.id));
const seconds = (frames: number): string => `${(frames / (facts.value?.rate ?? 30)).toFixed(1)} s`;

async function move(take: TakeView, by: -1 | 1): Promise<void> {
  const at = takes.value.indexOf(take);
  const other = takes.value[at + by];
  if (other)
    await attempt(async () => {
      // Two takes that were made at once may have the same place.
      const [a, b] = take.place === other.place ? [other.place + by * 1e-3, other.place] : [other.place, take.place];
      await listTake(take.id, { place: a });
      await listTake(other.id, { place: b });
    });
}
async function copy(take: TakeView): Promise<void> {
  await attempt(async () => (chosenId.value = await duplicateTake(take.id)));
}
</script>

<template>
  <ol class="cards">
    <li v-for="(take, i) in takes" :key="take.id" class="card" :class="{ chosen: take.id === chosenId }">
      <div class="head">
        <button type="button" class="name" :aria-pressed="take.id === chosenId" @click="chosenId = take.id">
          <span class="number quiet">{{ i + 1 }}</span>{{ take.name }}
        </button>
        <RouterLink :to="{ name: 'take', params: { id: take.id } }" :aria-label="`Open ${take.name}`" title="Open"
          ><PhArrowRight :size="17"
        /></RouterLink>
      </div>
      <div class="tools">
        <span class="quiet number">{{ seconds(take.fromFrame) }} – {{ seconds(take.untilFrame) }}</span>
        <span class="space"></span>
        <IconButton
          :icon="PhStar"
          :label="`The best: ${take.name}`"
          title="The best"
          :pressed="take.best"
          @click="attempt(() => listTake(take.id, { best: !take.best }))"
        />
        <IconButton
          :icon="PhArrowUp"
          :label="`Move ${take.name} up`"
          title="Up"
          :disabled="i === 0"
          @click="move(take, -1)"
        />
        <IconButton
          :icon="PhArrowDown"
          :label="`Move ${take.name} down`"
          title="Down"
          :disabled="i === takes.length - 1"
          @click="move(take, 1)"
        />
        <IconButton :icon="PhCopySimple" :label="`Copy ${take.name}`" title="Copy" @click="copy(take)" />
        <IconButton
          :icon="PhTrash"
          :label="`Throw ${take.name} away`"
          title="Throw away"
          @click="open.throwAway(take)"
        />
      </div>
      <RunLine v-if="take.id === chosenId" :take="take" />
    </li>
  </ol>
  <div class="add">
    <CommandButton command="clip.mark" words />
    <CommandButton command="clip.undo" />
  </div>
  <template v-if="offered.length">
    <h2>Good parts</h2>
    <p class="hint quiet">Somebody is wholly seen and moves.</p>
    <div v-for="part in offered" :key="part.from" class="offer">
      <el-button size="small" text class="number" @click="open.goTo(part.from)"
        >{{ seconds(part.from) }} – {{ seconds(part.until) }}</el-button
      >
      <el-button size="small" :icon="PhPlus" @click="open.mark(part.from, part.until)">Mark as a take</el-button>
    </div>
  </template>
  <template v-if="gone.length">
    <h2>Thrown away</h2>
    <div v-for="take in gone" :key="take.id" class="offer">
      <span>{{ take.name }}</span>
      <el-button size="small" @click="attempt(() => listTake(take.id, { removed: false }))">Bring back</el-button>
    </div>
  </template>
</template>

<style scoped>
li {
  padding: 5px 8px;
}

.chosen {
  border-color: var(--amber);
}

.head,
.tools,
.offer,
.add {
  align-items: center;
  display: flex;
  gap: 2px;
}

.offer {
  justify-content: space-between;
}

.head {
  gap: 8px;
}

.name {
  background: none;
  border: 0;
  color: var(--ink);
  cursor: pointer;
  flex: 1;
  font: 600 15px/1.3 var(--font);
  overflow: hidden;
  padding: 2px 0;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.name span {
  margin-right: 7px;
}

.head a {
  color: var(--amber);
  display: flex;
}

.tools {
  font-size: 13px;
}

.space {
  flex: 1;
}
</style>
