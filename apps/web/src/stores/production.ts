import { useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import type { ClipView } from '@merry-shadow/contracts/clip';
import type { HandShapeView } from '@merry-shadow/contracts/hand-shape';
import type { ProductionName, ServerEvent } from '@merry-shadow/contracts/production';
import type { PerformerView, PresetView } from '@merry-shadow/contracts/performer';
import type { RunPreview, TakeView } from '@merry-shadow/contracts/take';
import { addProduction, changeProduction, isThere } from '../api/client';
import { EventStream } from '../api/events';
import { bodySpeed } from './tracking-time';

/** The production that is open: its clips and takes as the server tells them. */
export const useProduction = defineStore('production', () => {
  /** Which one this browser had open last. */
  const chosen = useLocalStorage<string | null>('merry-shadow.production', null, {
    serializer: { read: (text) => text, write: (id) => id ?? '' },
  });
  const id = ref<string | null>(null);
  /** Counts productions that were opened after another one: rooms begin anew with each. */
  const opened = ref(0);
  const productions = shallowRef<readonly ProductionName[]>([]);
  const clips = shallowRef<readonly ClipView[]>([]);
  /** Those that were thrown away, too. */
  const allTakes = shallowRef<readonly TakeView[]>([]);
  const takes = computed(() => allTakes.value.filter((item) => !item.removed));
  const thrownAway = computed(() => allTakes.value.filter((item) => item.removed));
  const speed = computed(() => bodySpeed(takes.value));
  const performers = shallowRef<readonly PerformerView[]>([]);
  const presets = shallowRef<readonly PresetView[]>([]);
  const handShapes = shallowRef<readonly HandShapeView[]>([]);
  /** What holds up all work, as a sentence. */
  const trouble = ref<string | null>(null);
  const loaded = ref(false);
  const offline = ref(false);
  /** What the tracker sees of the take that is followed. */
  const preview = shallowRef<RunPreview | null>(null);
  let followed: string | null = null;
  let stream: EventStream | null = null;

  const clipsById = computed(() => new Map(clips.value.map((clip) => [clip.id, clip])));
  const takesById = computed(() => new Map(allTakes.value.map((take) => [take.id, take])));
  const name = computed(() => productions.value.find((production) => production.id === id.value)?.name ?? '');

  function told(event: ServerEvent): void {
    if (event.kind === 'all') {
      if (id.value !== null && id.value !== event.production.id) opened.value++;
      id.value = event.production.id;
      productions.value = event.production.productions;
      clips.value = event.production.clips;
      allTakes.value = event.production.takes;
      performers.value = event.production.performers;
      presets.value = event.production.presets;
      handShapes.value = event.production.handShapes;
      trouble.value = event.production.trouble;
      loaded.value = true;
    } else if (event.kind === 'changed') {
      clips.value = changed(clips.value, event.clips, event.gone);
      allTakes.value = changed(allTakes.value, event.takes, event.gone).toSorted((a, b) => a.place - b.place);
    } else if (event.kind === 'productions') {
      productions.value = event.productions;
      performers.value = event.performers;
      presets.value = event.presets;
      handShapes.value = event.handShapes;
    } else if (event.kind === 'trouble') trouble.value = event.trouble;
    else if (event.takeId === followed) preview.value = event.preview;
  }

  const reopen = (): void => stream?.open({ production: chosen.value || null, take: followed });

  function listen(): void {
    stream = new EventStream({
      event: told,
      connected: (yes) => (offline.value = !yes),
      refused: () => void forgetGone(),
    });
    reopen();
  }

  /** A production that is no longer there is not asked for again. */
  async function forgetGone(): Promise<void> {
    if (!chosen.value || (await isThere(chosen.value))) return;
    chosen.value = null;
    reopen();
  }

  function unlisten(): void {
    stream?.close();
    stream = null;
  }

  /** Whose tracking is watched; null for nobody's. */
  function follow(takeId: string | null): void {
    if (takeId === followed) return;
    followed = takeId;
    preview.value = null;
    reopen();
  }

  function open(wanted: string): void {
    if (wanted === id.value) return;
    chosen.value = wanted;
    loaded.value = false;
    clips.value = [];
    allTakes.value = [];
    reopen();
  }

  const make = async (wanted: string): Promise<void> => open((await addProduction(wanted)).id);
  const rename = (which: string, wanted: string): Promise<unknown> => changeProduction(which, { name: wanted });
  const bringBack = (which: string): Promise<unknown> => changeProduction(which, { putAway: false });

  /** Puts a production out of sight; another one opens where it was open. */
  async function putAway(which: string): Promise<void> {
    await changeProduction(which, { putAway: true });
    const other = productions.value.find((production) => production.id !== which && !production.putAway);
    if (which === id.value && other) open(other.id);
  }

  const clip = (wanted: string): ClipView | undefined => clipsById.value.get(wanted);
  const take = (wanted: string): TakeView | undefined => takesById.value.get(wanted);
  const performer = (wanted: string | null): PerformerView | undefined =>
    performers.value.find((item) => item.id === wanted);
  const takesOf = (clipId: string): TakeView[] => takes.value.filter((item) => item.clipId === clipId);
  return {
    id,
    opened,
    name,
    productions,
    clips,
    takes,
    thrownAway,
    speed,
    performers,
    presets,
    handShapes,
    trouble,
    loaded,
    offline,
    preview,
    listen,
    unlisten,
    follow,
    open,
    make,
    rename,
    putAway,
    bringBack,
    clip,
    take,
    performer,
    takesOf,
  };
});

/** A list with what was told of some of its items, in its order; what is new comes last. */
function changed<T extends { id: string }>(
  list: readonly T[],
  told: readonly T[],
  gone: readonly string[],
): readonly T[] {
  if (told.length === 0 && gone.length === 0) return list;
  const news = new Map(told.map((item) => [item.id, item]));
  const kept = list.filter(({ id }) => !gone.includes(id)).map((item) => news.get(item.id) ?? item);
  const known = new Set(kept.map(({ id }) => id));
  return [...kept, ...told.filter(({ id }) => !known.has(id))];
}
