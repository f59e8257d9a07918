import { computed, inject, provide, ref, shallowRef, watch, type InjectionKey } from 'vue';
import { DEFAULT_FIELD_OF_VIEW } from '@merry-shadow/core/camera/pinhole';
import { withPlant } from '@merry-shadow/core/edits/plants-of';
import { shiftEdits, withRecord } from '@merry-shadow/core/edits/take-edits';
import { same } from '@merry-shadow/core/edits/work';
import { toldOf } from '@merry-shadow/core/edits/told-of';
import { withToldMarks } from '@merry-shadow/core/solve/hints/told-marks';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import { pointsOf, type TakeSettings, type TakeView } from '@merry-shadow/contracts/take';
import type { TakeState } from '@merry-shadow/contracts/take-work';
import { fetchSolved, fetchTake } from '../api/client';
import { workPreview } from './work-preview';
import { withIn, withOut } from '../play/in-out';
import { useTimeScale } from '../play/time-scale';
import { usePlayer, type PlayedPart } from '../play/player';
import { attempt } from '../shell/trouble';
import { useProduction } from '../stores/production';
import { isOpen, runWords } from '../takes/run-words';
import { useCoarseStep } from './coarse-step';
import { useEvaluation } from './evaluation';
import { historyStore } from './history-store';
import { usePictureTools } from './picture-tools';
import { knownWork, useTakeKeeper } from './take-keeper';
import { useTakeObservations } from './take-observations';
import { useTakeWork } from './take-work';
import type { KnownWork } from './work-keeper';

/** Settings that a motion is made from: another one is fetched when any of them changes. */
const SOLVED_FROM = [
  'height',
  'fieldOfView',
  'tilt',
  'steady',
  'calibration',
  'neutral',
  'cuts',
  'slowMotion',
  'manner',
] as const satisfies readonly (keyof TakeSettings)[];

/** A camera that turned by less than this stood still, radians. */
const STANDS = 0.01;

/**
 * The take that is open: its clip, playing, what was seen and solved, the work on it, and what is chosen. Made once by its screen; everything on the screen
 * takes it by `useOpenTake`.
 */
export function openTake(id: string) {
  const production = useProduction();
  const stored = shallowRef<KnownWork>();
  const listed = computed(() => production.take(id));
  const clip = computed(() => (listed.value ? production.clip(listed.value.clipId) : undefined));
  const facts = computed(() => clip.value?.facts ?? null);
  const captured = computed(() => listed.value?.captured ?? null);
  const firstObserved = computed(() => captured.value?.fromFrame ?? 0);

  let keeper: ReturnType<ReturnType<typeof useTakeKeeper>> | null = null;
  const keeping = useTakeKeeper(id);
  const work = useTakeWork(stored, firstObserved, (changed) => (keeper = keeping(changed)), historyStore(id));
  // The list tells of a newer state; what it holds is fetched.
  watch(
    () => listed.value?.revision,
    async (revision) => {
      if (revision === undefined || (keeper && revision <= keeper.revision)) return;
      await attempt(async () => (stored.value = knownWork(await fetchTake(id))));
    },
    { immediate: true },
  );
  /** The take as it is here, stored or not yet. */
  const take = computed<TakeView | undefined>(() => {
    const { state } = work;
    if (!listed.value || !state.value) return undefined;
    const { name, fromFrame, untilFrame, settings } = state.value;
    return { ...listed.value, name, fromFrame, untilFrame, settings };
  });
  const set = (label: string, settings: Partial<TakeSettings>): void => {
    if (work.state.value) work.change(label, { settings: { ...work.state.value.settings, ...settings } });
  };

  const video = ref<HTMLVideoElement>();
  const part = computed<PlayedPart | undefined>(() =>
    take.value && facts.value
      ? {
          rate: facts.value.rate,
          frames: facts.value.frames,
          from: take.value.fromFrame,
          until: take.value.untilFrame,
        }
      : undefined,
  );
  const player = usePlayer(video, part);
  watch(part, (now, before) => now && !before && player.seek(now.from), { immediate: true });
  /** The shown frame, counted from the capture's first one. */
  const frame = computed(() => player.shown.value - firstObserved.value);

  const marks = ref(true);
  const runId = computed(() => captured.value?.runId ?? null);
  const seen = useTakeObservations(id, runId, frame, marks);
  const run = computed(() => listed.value?.run ?? null);
  const tracking = computed(() => isOpen(run.value));
  watch(tracking, (open) => production.follow(open ? id : null), { immediate: true });
  /** Marks of the frame that is being worked on, while nothing finished is there to show. */
  const atWork = computed(() => (seen.value ? null : workPreview(production.preview, facts.value)));
  watch(
    () => atWork.value?.first,
    (at) => at !== undefined && !player.playing.value && player.seek(at),
  );

  const solved = shallowRef<SolvedTake | null>(null);
  /** What the shown motion was made from, see `madeFrom`. */
  const solvedFrom = ref('');
  /** A motion is being made in the place of the one that is shown. */
  const resolving = ref(false);
  const problem = ref('');
  /** What the person told to the solve: marks and depths. */
  const told = computed(() => toldOf(work.edits.value));
  const madeFrom = computed(() => {
    const settings = take.value?.settings;
    return captured.value && settings
      ? JSON.stringify([captured.value.runId, told.value, ...SOLVED_FROM.map((name) => settings[name])])
      : '';
  });
  /** What was seen, with marks where the person says that they are. */
  const observations = computed(() => seen.value && withToldMarks(seen.value, told.value.marks));
  watch(
    madeFrom,
    async (wanted, _, onCleanup) => {
      const newer = new AbortController();
      onCleanup(() => newer.abort());
      if (!wanted) return void (solved.value = null);
      problem.value = '';
      resolving.value = solved.value !== null;
      try {
        await keeper?.settled();
        const result = await fetchSolved(id, newer.signal);
        if (wanted !== madeFrom.value) return;
        solvedFrom.value = wanted;
        solved.value = result;
      } catch (error) {
        if (wanted !== madeFrom.value || newer.signal.aborted) return;
        solved.value = null;
        problem.value = (error as Error).message;
      } finally {
        if (wanted === madeFrom.value) resolving.value = false;
      }
    },
    { immediate: true },
  );

  /** A former state of the work that is looked at; null for the present one. */
  const looked = shallowRef<{ revision: number; title: string; state: TakeState } | null>(null);
  watch(work.state, () => (looked.value = null));
  /** The one that was looked at last: to go back and forth between it and the present one. */
  const lookedLast = shallowRef<typeof looked.value>(null);
  watch(looked, (version) => version && (lookedLast.value = version));
  const toggleLooked = (): void => void (looked.value = looked.value ? null : lookedLast.value);
  const coarse = useCoarseStep(madeFrom, solvedFrom);
  const edits = computed(() => {
    if (looked.value) return shiftEdits(looked.value.state.edits, -firstObserved.value);
    return coarse.layer.value ? withRecord(work.edits.value, coarse.layer.value) : work.edits.value;
  });
  const evaluation = useEvaluation(solved, edits);
  /** The capture as it was solved, without what was laid over it. */
  const before = ref(false);
  const shown = computed<SolvedTake | null>(() => {
    const evaluated = evaluation.evaluated.value;
    if (!solved.value || !evaluated) return null;
    return before.value ? solved.value : { ...solved.value, motion: evaluated.motion };
  });
  /** Whether the solved figure is drawn over the picture; where the camera moved it would not lie where it was filmed. */
  const wantsOverlay = ref(false);
  const canOverlay = computed(() => solved.value !== null && solved.value.turned < STANDS);
  const overlay = computed(() => wantsOverlay.value && canOverlay.value);
  const plants = computed(() => evaluation.evaluated.value?.plants ?? []);
  /** The chosen plant, by id. */
  const selected = ref<string | null>(null);
  watch(plants, (list) => list.every((plant) => plant.id !== selected.value) && (selected.value = null));

  /** What the panel at the side shows. */
  const panel = ref<'track' | 'clean' | 'pose' | 'snags' | 'versions'>('track');
  watch(selected, (plant) => plant !== null && panel.value !== 'pose' && (panel.value = 'clean'));

  const tools = usePictureTools(
    computed(() => clip.value?.id),
    player,
    work.state,
    set,
  );

  function setRange(fromFrame: number, untilFrame: number): void {
    work.change('set in and out', { fromFrame, untilFrame });
  }

  /** Why the capture is not of what is asked for now. */
  const stale = computed(() => {
    const [now, then] = [take.value, captured.value];
    if (!now || !then) return '';
    if (then.ofOldFile) return 'The file of the clip was replaced after the take was tracked. Track it again.';
    if (then.fromFrame !== now.fromFrame || then.untilFrame !== now.untilFrame)
      return 'The in or out point was moved after the take was tracked. Track it again to use the new range.';
    const { performer, performerAgain } = now.settings;
    if (!same(then.followed, pointsOf(performer, performerAgain)))
      return 'Another performer was pointed at after the take was tracked. Track it again to follow them.';
    const missing = [
      now.settings.hands && !then.hands ? 'hands' : '',
      now.settings.face && !then.face ? 'face' : '',
      now.settings.fine && !then.fine ? 'high precision' : '',
    ].filter(Boolean);
    return missing.length > 0 ? `Track it again to get ${missing.join(' and ')}, too.` : '';
  });

  /** What there is instead of a motion, in words. */
  const instead = computed(() => {
    if (problem.value) return problem.value;
    if (shown.value) return '';
    if (run.value && tracking.value) return `Tracking: ${runWords(run.value)}`;
    if (captured.value) return 'Making the motion';
    return 'Not tracked yet. Set in and out, then press Track.';
  });

  const open = {
    id,
    take,
    clip,
    facts,
    captured,
    firstObserved,
    cuts: computed(() => cutsOf(solved.value, firstObserved.value)),
    work,
    set,
    setRange,
    video,
    player,
    frame,
    marks,
    observations,
    atWork,
    time: useTimeScale(computed(() => facts.value?.frames ?? 1)),
    lens: computed(() => take.value?.settings.fieldOfView ?? facts.value?.fieldOfView ?? DEFAULT_FIELD_OF_VIEW),
    solved,
    resolving,
    coarse,
    shown,
    overlay,
    wantsOverlay,
    canOverlay,
    before,
    looked,
    lookedLast,
    toggleLooked,
    evaluation,
    plants,
    selected,
    panel,
    stale,
    instead,
    tracking,
    tools,
    /** Sets a point to the frame that was asked for last, shown yet or not. */
    setIn: () => part.value && setRange(...withIn([part.value.from, part.value.until], player.at())),
    setOut: () => part.value && setRange(...withOut([part.value.from, part.value.until], player.at())),
    removePlant(): void {
      if (selected.value !== null)
        work.changeEdits('remove plant', withPlant(work.edits.value, plants.value, selected.value, null));
    },
    goTo(wanted: number): void {
      player.pause();
      player.seek(wanted);
    },
  };
  provide(KEY, open);
  return open;
}

export type OpenTake = ReturnType<typeof openTake>;
const KEY = Symbol('open take') as InjectionKey<OpenTake>;

/** The take that is open. @throws Error outside a take's screen. */
export function useOpenTake(): OpenTake {
  const open = inject(KEY);
  if (!open) throw new Error('No take is open here.');
  return open;
}

/** Frames of the clip with which another shot begins. */
const cutsOf = (solved: SolvedTake | null, first: number): number[] =>
  solved?.shots.slice(1).map(({ from }) => from + first) ?? [];
