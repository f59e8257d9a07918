import { nanoid } from 'nanoid';
import { computed, inject, provide, ref, shallowRef, watch, type InjectionKey } from 'vue';
import { curvesKind, CurvesRecord } from '@merry-shadow/core/edits/kinds/curves-record';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import { withoutRecords, withRecord, type TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { channelsOf, readChannels, ROOT_TARGET } from '@merry-shadow/core/curves/channels';
import { CurveCourse } from '@merry-shadow/core/curves/curve';
import type { ThinnedKeys } from '@merry-shadow/core/curves/thin-keys';
import { nameWords } from '@merry-shadow/core/motion/name-words';
import type { OpenTake } from '../take/open-take';
import * as edit from './curve-edits';
import type { Channels, KeyPlace, KeyShape } from './curve-edits';

/** Names of a target's channels. */
const AXES = ['x', 'y', 'z'] as const;

/**
 * The desk on which curves are worked: a joint, the root, or a curve of the face; its values frame by frame as they were captured and as they are, and the keys that stand in their
 * place. Frames count from the capture's first one.
 */
export function provideCurveDesk(open: OpenTake) {
  const isOpen = ref(false);
  const { work, solved, evaluation, frame } = open;
  const target = ref('leftUpperArm');
  /** Other targets whose curves are shown beside, thin: to be read, not worked on. */
  const besides = ref<string[]>([]);
  /** Which channels are shown and worked on. */
  const axes = ref<readonly number[]>([0, 1, 2]);
  const picked = shallowRef<readonly KeyPlace[]>([]);
  const tolerance = ref({ degrees: 2, centimetres: 1 });
  /** How far the last thinning is off. */
  const thinned = shallowRef<ThinnedKeys['worst'] | null>(null);

  const targets = computed(() => {
    const motion = solved.value?.motion;
    if (!motion) return [];
    return [
      { value: ROOT_TARGET, title: 'root, its place' },
      ...motion.skeleton.joints.map(({ name }) => ({ value: name, title: nameWords(name) })),
      ...motion.curves.map(({ name }) => ({ value: name, title: nameWords(name.replace('.', ', ')) })),
    ];
  });
  const found = computed(() => (solved.value ? channelsOf(solved.value.motion, target.value) : null));
  const frames = computed(() => solved.value?.motion.frames ?? 0);
  const titles = computed(() => (found.value?.count === 3 ? [...AXES] : [nameWords(target.value)]));
  const unit = computed(() => ({ degrees: '°', centimetres: 'cm', share: '' })[found.value?.unit ?? 'share']);
  /** What the capture tells, a thin line behind all. */
  const captured = computed(() =>
    isOpen.value && solved.value ? readChannels(solved.value.motion, target.value) : null,
  );
  /** What the motion is with everything laid over it. */
  const now = computed(() => {
    const motion = evaluation.evaluated.value?.motion;
    return isOpen.value && motion ? readChannels(motion, target.value) : null;
  });

  /** The curves shown beside: those of the same unit, which the same scale shows. */
  const beside = computed(() => {
    const motion = evaluation.evaluated.value?.motion;
    if (!isOpen.value || !motion) return [];
    return besides.value.flatMap((name) => {
      const channelsThere = name === target.value ? null : channelsOf(motion, name);
      const rows = channelsThere?.unit === found.value?.unit ? readChannels(motion, name) : null;
      return rows ? [{ name, title: nameWords(name.replace('.', ', ')), rows }] : [];
    });
  });

  const stored = computed(
    () => recordsOf(work.edits.value.records, 'curves').find((record) => record.target === target.value) ?? null,
  );
  /** Keys while they are dragged; null when nothing is. */
  const draft = shallowRef<Channels | null>(null);
  const channels = computed<Channels>(() => draft.value ?? stored.value?.channels ?? (now.value ?? []).map(() => []));
  const courses = computed(() => channels.value.map((keys) => new CurveCourse(keys)));
  watch(target, () => {
    picked.value = [];
    thinned.value = null;
    draft.value = null;
  });
  /** The chosen keys, as far as they are there: undone ones are not. */
  const chosen = computed<readonly KeyPlace[]>(() => {
    const isThere = edit.chooser(
      channels.value.flatMap((keys, channel) => keys.map(({ frame: at }) => ({ channel, frame: at }))),
    );
    return picked.value.filter(isThere);
  });

  /** The edits with the target's keys as given; without keys the record goes. */
  function withKeys(next: Channels): TakeEdits {
    const edits = work.edits.value;
    if (next.every((keys) => keys.length === 0)) return withoutRecords(edits, ({ id }) => id === stored.value?.id);
    const record = CurvesRecord.parse({
      kind: 'curves',
      id: nanoid(10),
      ...stored.value,
      target: target.value,
      channels: next,
    });
    return withRecord(edits, record);
  }
  function put(label: string, next: Channels): void {
    draft.value = null;
    work.changeEdits(label, withKeys(next));
  }
  /** Shows keys while they are dragged, on the stage, too. */
  function drag(next: Channels): void {
    draft.value = next;
    evaluation.drag(withKeys(next), frame.value);
  }
  function drop(label: string): void {
    const next = draft.value;
    if (next && JSON.stringify(next) !== JSON.stringify(stored.value?.channels)) return put(label, next);
    draft.value = null;
    evaluation.drag(null, 0);
  }

  /** Thins what the motion is now to few keys: between the first and the last chosen key, or all of it where fewer than two are chosen. */
  async function thin(): Promise<void> {
    const ends = chosen.value.map((place) => place.frame);
    const [from, until] = ends.length > 1 ? [Math.min(...ends), Math.max(...ends) + 1] : [0, frames.value];
    const wanted = target.value;
    const what = { target: wanted, run: [from, until] as [number, number], tolerance: tolerance.value };
    const made = await evaluation.thin(work.edits.value, what);
    // Another joint may have been chosen meanwhile.
    if (!made || wanted !== target.value) return;
    const beside = channels.value.map((keys) => keys.filter(({ frame: at }) => at < from || at >= until));
    picked.value = [];
    put(
      'thin to keys',
      made.channels.map((keys, k) => [...(beside[k] ?? []), ...keys].sort((a, b) => a.frame - b.frame)),
    );
    thinned.value = made.worst;
  }
  const choose = (places: readonly KeyPlace[]): void => void (picked.value = places);
  const change = (label: string, make: (channels: Channels, places: readonly KeyPlace[]) => Channels): void => {
    if (chosen.value.length > 0) put(label, make(channels.value, chosen.value));
  };

  const desk = {
    isOpen,
    target,
    targets,
    axes,
    titles,
    unit,
    frames,
    found,
    captured,
    now,
    besides,
    beside,
    channels,
    courses,
    chosen,
    tolerance,
    thinned,
    stored,
    choose,
    drag,
    drop,
    thin,
    /** Puts keys at the shown frame into the channels that are shown. */
    insert(): void {
      const values = (now.value ?? []).map((row) => row[frame.value] ?? 0);
      put('put in a key', edit.insertKeys(channels.value, axes.value, frame.value, values));
      choose(
        axes.value.filter((channel) => channel < values.length).map((channel) => ({ channel, frame: frame.value })),
      );
    },
    remove: () => change('take keys out', edit.removeKeys),
    level: () => change('bring keys to one value', edit.levelKeys),
    straighten: () => change('bring keys onto the line', edit.straightenKeys),
    shape: (shape: KeyShape) => change('shape of keys', (list, places) => edit.shapeKeys(list, places, shape)),
    scale: (factor: number) =>
      change('scale keys', (list, places) => {
        const values = places.flatMap(({ channel, frame: at }) => list[channel].filter((key) => key.frame === at));
        const mean = values.reduce((sum, { value }) => sum + value, 0) / Math.max(1, values.length);
        return edit.scaleKeys(list, places, factor, mean);
      }),
    nudge(by: { frames: number; value: number }): void {
      if (chosen.value.length === 0) return;
      const moved = edit.moveKeys(channels.value, chosen.value, by, frames.value);
      choose(moved.chosen);
      put('move keys', moved.channels);
    },
    /** Takes all keys of the target away: the motion below shows again. */
    clear(): void {
      if (stored.value) work.changeEdits(`remove ${curvesKind.words(stored.value)}`, withKeys([]));
    },
    set(label: string, fields: Partial<Pick<CurvesRecord, 'ease' | 'muted'>>): void {
      if (stored.value) work.changeEdits(label, withRecord(work.edits.value, { ...stored.value, ...fields }));
    },
  };
  provide(KEY, desk);
  return desk;
}
export type CurveDesk = ReturnType<typeof provideCurveDesk>;
const KEY = Symbol('curve desk') as InjectionKey<CurveDesk>;

/** The desk of the take that is open. @throws Error outside a take's screen. */
export function useCurveDesk(): CurveDesk {
  const desk = inject(KEY);
  if (!desk) throw new Error('There is no curve desk here.');
  return desk;
}
