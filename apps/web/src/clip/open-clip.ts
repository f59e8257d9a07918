import { computed, inject, provide, ref, shallowRef, watch, type InjectionKey } from 'vue';
import { judgeFootage } from '@merry-shadow/core/judge/registry';
import type { Judgement } from '@merry-shadow/core/judge/judge';
import { goodParts } from '@merry-shadow/core/judge/good-parts';
import type { Looks } from '@merry-shadow/core/judge/looks';
import type { TakeView } from '@merry-shadow/contracts/take';
import { addTake, changeTake, fetchLooks, fetchWave, listTake } from '../api/client';
import { withIn, withOut, type Range } from '../play/in-out';
import { usePlayer, type PlayedPart } from '../play/player';
import { useTimeScale } from '../play/time-scale';
import { attempt } from '../shell/trouble';
import { useProduction } from '../stores/production';

const rangeOf = ({ fromFrame, untilFrame }: TakeView): Range => [fromFrame, untilFrame];

/** Something that was done on this screen, and how it is taken back. */
interface Done {
  label: string;
  back: () => Promise<unknown>;
}

/** The clip that is open: playing, what was judged, its takes and the chosen one. Everything on its screen takes it by `useOpenClip`. */
export function openClip(id: string) {
  const production = useProduction();
  const clip = computed(() => production.clip(id));
  const facts = computed(() => clip.value?.facts ?? null);
  const takes = computed(() => production.takesOf(id));
  const chosenId = ref<string | null>(null);
  const chosen = computed(() => takes.value.find((take) => take.id === chosenId.value) ?? null);
  watch(takes, (list) => (chosenId.value ??= list[0]?.id ?? null), { immediate: true });

  const video = ref<HTMLVideoElement>();
  const part = computed<PlayedPart | undefined>(() =>
    facts.value
      ? {
          rate: facts.value.rate,
          frames: facts.value.frames,
          from: chosen.value?.fromFrame ?? 0,
          until: chosen.value?.untilFrame ?? facts.value.frames,
        }
      : undefined,
  );
  const player = usePlayer(video, part);

  const looks = shallowRef<Looks | null>(null);
  const wave = shallowRef<Uint8Array | null>(null);
  watch(
    () => [clip.value?.hash, clip.value?.judged !== null && clip.value?.judged !== undefined, clip.value?.state],
    async ([hash, judged, state]) => {
      looks.value = judged ? await fetchLooks(id).catch(() => null) : null;
      wave.value = hash && state === 'ready' && facts.value?.hasSound ? await fetchWave(id).catch(() => null) : null;
    },
    { immediate: true },
  );
  const judgements = computed<Judgement[]>(() => (looks.value ? judgeFootage(looks.value) : []));

  const done = shallowRef<readonly Done[]>([]);
  const undoLabel = computed(() => done.value.at(-1)?.label ?? null);
  async function act(label: string, work: () => Promise<unknown>, back: () => Promise<unknown>): Promise<void> {
    if (await attempt(work)) done.value = [...done.value, { label, back }];
  }
  async function undo(): Promise<void> {
    const last = done.value.at(-1);
    if (!last) return;
    done.value = done.value.slice(0, -1);
    await attempt(last.back);
  }

  /** Moves a take's in and out points. */
  async function setRange(take: TakeView, fromFrame: number, untilFrame: number): Promise<void> {
    const before = { fromFrame: take.fromFrame, untilFrame: take.untilFrame };
    if (fromFrame === before.fromFrame && untilFrame === before.untilFrame) return;
    await act(
      'set in and out',
      () => changeTake(take.id, { fromFrame, untilFrame, label: 'set in and out' }),
      () => changeTake(take.id, { ...before, label: 'Undo: set in and out' }),
    );
  }

  /** Marks a part as a take of its own and chooses it. */
  async function mark(fromFrame: number, untilFrame: number): Promise<void> {
    const settings = chosen.value?.settings;
    let made = '';
    await act(
      'mark take',
      async () => (made = await addTake(id, { fromFrame, untilFrame, settings })),
      () => listTake(made, { removed: true }),
    );
    if (made) chosenId.value = made;
  }

  async function throwAway(take: TakeView): Promise<void> {
    await act(
      `throw away ${take.name}`,
      () => listTake(take.id, { removed: true }),
      () => listTake(take.id, { removed: false }),
    );
  }

  /** Parts in which somebody is wholly seen and moves, that are no takes yet. */
  const offered = computed(() =>
    looks.value
      ? goodParts(looks.value).filter((good) =>
          takes.value.every(
            (take) => Math.abs(take.fromFrame - good.from) + Math.abs(take.untilFrame - good.until) > 4,
          ),
        )
      : [],
  );

  const open = {
    id,
    clip,
    facts,
    takes,
    chosenId,
    chosen,
    video,
    player,
    time: useTimeScale(computed(() => facts.value?.frames ?? 1)),
    looks,
    wave,
    judgements,
    offered,
    undo,
    undoLabel,
    setRange,
    mark,
    throwAway,
    /** Sets the chosen take's point to the frame that was asked for last. */
    setIn: () => chosen.value && void setRange(chosen.value, ...withIn(rangeOf(chosen.value), player.at())),
    setOut: () => chosen.value && void setRange(chosen.value, ...withOut(rangeOf(chosen.value), player.at())),
    goTo(frame: number): void {
      player.pause();
      player.seek(frame);
    },
  };
  provide(KEY, open);
  return open;
}

export type OpenClip = ReturnType<typeof openClip>;
const KEY = Symbol('open clip') as InjectionKey<OpenClip>;

/** The clip that is open. @throws Error outside a clip's screen. */
export function useOpenClip(): OpenClip {
  const open = inject(KEY);
  if (!open) throw new Error('No clip is open here.');
  return open;
}
