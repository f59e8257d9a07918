<script setup lang="ts">
import { PhPlay, PhTrash, PhUsersThree } from '@phosphor-icons/vue';
import { useMediaQuery, useVirtualList } from '@vueuse/core';
import { ElMessageBox } from 'element-plus';
import { computed, reactive, ref } from 'vue';
import type { PresetView } from '@merry-shadow/contracts/performer';
import type { TakeView } from '@merry-shadow/contracts/take';
import { captureTake, listTake, removeTake, shareSettings } from '../api/client';
import { attempt } from '../shell/trouble';
import { useSorted } from '../shell/use-sorted';
import { plural } from '../shell/words';
import { useTitle } from '../shell/title';
import { useProduction } from '../stores/production';
import { placeAfterMove } from './list-order';
import PerformersDialog from './PerformersDialog.vue';
import PresetMenu from './PresetMenu.vue';
import { isOpen } from './run-words';
import TakeRow from './TakeRow.vue';
import { aboutSeconds, trackingSeconds } from '../stores/tracking-time';

/** All takes: ordered, compared, and many dealt with at once. */
const production = useProduction();
const FILTERS = [
  { value: 'all', label: 'All' },
  { value: 'best', label: 'Best' },
  { value: 'open', label: 'In the queue' },
  { value: 'untracked', label: 'Not tracked' },
] as const;
const filter = ref<(typeof FILTERS)[number]['value']>('all');
const words = ref('');
const performers = ref(false);
const untracked = ({ run }: TakeView): boolean => run === null || run.state === 'failed' || run.state === 'cancelled';
const KEPT: Record<typeof filter.value, (take: TakeView) => boolean> = {
  all: () => true,
  best: (take) => take.best,
  open: (take) => isOpen(take.run),
  untracked,
};
const shown = computed(() => {
  const wanted = words.value.trim().toLowerCase();
  const list = production.takes.filter(
    (take) =>
      KEPT[filter.value](take) &&
      (wanted === '' || `${take.name} ${production.clip(take.clipId)?.name}`.toLowerCase().includes(wanted)),
  );
  // Those that wait stand in the order in which they will be tracked.
  return filter.value === 'open' ? list.toSorted((a, b) => (a.run?.place ?? 0) - (b.run?.place ?? 0)) : list;
});

/** Takes that are chosen for what is done to several. */
const chosen = reactive(new Set<string>());
const chosenTakes = computed(() => shown.value.filter(({ id }) => chosen.has(id)));
const toTrack = computed(() =>
  (chosenTakes.value.length > 0 ? chosenTakes.value : production.takes.filter(untracked)).filter(
    ({ run }) => !isOpen(run),
  ),
);
const trackingTime = computed(() =>
  aboutSeconds(toTrack.value.reduce((sum, take) => sum + trackingSeconds(take, production.speed), 0)),
);
function choose(take: TakeView, yes: boolean): void {
  if (yes) chosen.add(take.id);
  else chosen.delete(take.id);
}
function chooseAll(yes: boolean): void {
  chosen.clear();
  if (yes) for (const { id } of shown.value) chosen.add(id);
}

async function track(): Promise<void> {
  await attempt(async () => {
    for (const { id } of toTrack.value) await captureTake(id);
  });
  chosen.clear();
}
async function lay(preset: PresetView): Promise<void> {
  const takes = chosenTakes.value.map(({ id }) => id);
  await attempt(() => shareSettings({ takes, settings: preset.settings, label: `preset ${preset.name}` }));
}
async function setPerformer(id: string): Promise<void> {
  const performer = production.performer(id);
  if (!performer) return;
  const takes = chosenTakes.value.map((take) => take.id);
  const settings = { performedBy: id, height: performer.height };
  await attempt(() => shareSettings({ takes, settings, label: `performed by ${performer.name}` }));
}
async function throwAway(): Promise<void> {
  await attempt(async () => {
    for (const { id } of chosenTakes.value) await listTake(id, { removed: true });
  });
  chosen.clear();
}
async function removeForGood(): Promise<void> {
  const gone = production.thrownAway;
  const sure = await ElMessageBox.confirm(
    `${plural(gone.length, 'take')} and what was tracked of ${gone.length === 1 ? 'it' : 'them'} will be removed for good. The clips stay.`,
    'Remove what was thrown away?',
    { confirmButtonText: 'Remove', cancelButtonText: 'Keep', confirmButtonClass: 'el-button--danger' },
  ).catch(() => null);
  if (sure) await attempt(() => Promise.all(gone.map(({ id }) => removeTake(id))));
}

/** Where a take stands in the order that is shown. */
const placeOf = (take: TakeView): number => (filter.value === 'open' ? (take.run?.place ?? 0) : take.place);
async function move(from: number, to: number): Promise<void> {
  const take = shown.value[from];
  if (!take || from === to || to < 0 || to >= shown.value.length) return;
  const place = placeAfterMove(shown.value.map(placeOf), from, to);
  await attempt(() => listTake(take.id, filter.value === 'open' ? { queuePlace: place } : { place }));
}

/** Rows are so far apart, pixels; in a narrow window they are two lines high. Only those in view are made. */
const GAP = 8;
const narrow = useMediaQuery('(max-width: 980px)');
const rowHeight = computed(() => (narrow.value ? 132 : 82) + GAP);
const { list, containerProps, wrapperProps } = useVirtualList(shown, {
  itemHeight: () => rowHeight.value,
  overscan: 6,
});
const rows = ref<HTMLOListElement>();
useSorted(rows, (from, to) => {
  const first = list.value[0]?.index ?? 0;
  void move(first + from, first + to);
});
useTitle('Takes');
</script>

<template>
  <section class="room list">
    <div class="title">
      <h1>Takes</h1>
      <span v-if="production.takes.length" class="quiet number">{{ plural(production.takes.length, 'take') }}</span>
      <el-button class="performers" @click="performers = true"><PhUsersThree :size="18" />Performers</el-button>
      <el-button v-if="toTrack.length" type="primary" plain @click="track"
        ><PhPlay :size="17" />{{ `Track ${plural(toTrack.length, 'take')}` }} · {{ trackingTime }}</el-button
      >
    </div>
    <div v-if="production.loaded && production.takes.length === 0 && production.thrownAway.length === 0" class="empty">
      <h2>No takes yet</h2>
      <p class="quiet">
        A take is the good part of a clip. Bring in footage first; each clip starts with one take over its whole length.
      </p>
      <RouterLink :to="{ name: 'footage' }">Bring in footage</RouterLink>
    </div>
    <template v-else>
      <div class="tools">
        <el-checkbox
          :model-value="chosenTakes.length > 0 && chosenTakes.length === shown.length"
          :indeterminate="chosenTakes.length > 0 && chosenTakes.length < shown.length"
          aria-label="Choose all"
          @change="(yes: unknown) => chooseAll(yes === true)"
        />
        <template v-if="chosenTakes.length">
          <strong class="number">{{ chosenTakes.length }} chosen</strong>
          <PresetMenu :settings="chosenTakes.length === 1 ? chosenTakes[0].settings : null" @use="lay" />
          <el-select
            class="performer"
            size="small"
            :model-value="''"
            placeholder="Performed by"
            aria-label="Performed by"
            no-data-text="Add performers first"
            @change="setPerformer"
          >
            <el-option v-for="item in production.performers" :key="item.id" :value="item.id" :label="item.name" />
          </el-select>
          <el-button size="small" @click="throwAway"><PhTrash :size="16" />Throw away</el-button>
        </template>
        <template v-else>
          <el-segmented v-model="filter" :options="[...FILTERS]" size="small" aria-label="Which takes" />
          <el-input
            v-model="words"
            class="search"
            size="small"
            clearable
            placeholder="Search"
            aria-label="Search takes"
          />
        </template>
        <el-button v-if="production.thrownAway.length" class="gone" size="small" text @click="removeForGood"
          >{{ plural(production.thrownAway.length, 'take') }} thrown away · remove for good</el-button
        >
      </div>
      <p v-if="shown.length === 0" class="quiet">No take is like that.</p>
      <div v-bind="containerProps" class="scroll">
        <ol ref="rows" v-bind="wrapperProps">
          <li
            v-for="{ data: take, index } in list"
            :key="take.id"
            :class="{ chosen: chosen.has(take.id) }"
            :style="{ height: `${rowHeight - GAP}px` }"
          >
            <TakeRow
              :take="take"
              :chosen="chosen.has(take.id)"
              :movable="words === '' && (filter === 'all' || filter === 'open')"
              @choose="(yes) => choose(take, yes)"
              @move="(by) => move(index, index + by)"
            />
          </li>
        </ol>
      </div>
    </template>
    <PerformersDialog v-model="performers" />
  </section>
</template>

<style scoped>
.scroll {
  flex: 1;
  padding-bottom: 40px;
}

.performers {
  margin-left: auto;
}

.title .el-button + .el-button {
  margin-left: 0;
}

.tools {
  min-height: 32px;
  padding-left: 14px;
}

.performer {
  width: 150px;
}

.search {
  width: 200px;
}

.gone {
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
  background: var(--sheet);
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  box-sizing: border-box;
  display: grid;
  gap: 12px;
  grid-template-columns: auto auto 104px minmax(200px, 1fr) minmax(260px, 380px) auto;
  margin-bottom: 8px;
  padding: 8px 12px 8px 14px;
}

li.chosen {
  border-color: var(--amber);
}

@media (max-width: 980px) {
  li {
    grid-template-columns: auto auto 88px 1fr auto;
  }

  li :deep(.run) {
    grid-column: 1 / -1;
    grid-row: 2;
  }
}
</style>
