import { nanoid } from 'nanoid';
import { computed, inject, provide, ref, shallowRef, watch, type InjectionKey } from 'vue';
import { curvesKind, CurvesRecord } from '@merry-shadow/core/edits/kinds/curves-record';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import { withoutRecords, withRecord, type TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { channelsOf, readChannels, ROOT_TARGET } from '@merry-shadow/core/curves/channels';
import type { ThinnedKeys } from '@merry-shadow/core/curves/thin-keys';
import type { Motion } from '@merry-shadow/core/motion/motion';
import { nameWords } from '@merry-shadow/core/motion/name-words';
import type { OpenTake } from '../take/open-take';
import * as edit from './curve-edits';
import type { Channels, KeyPlace, KeyShape } from './curve-edits';

/** Names of a target's channels. */
const AXES = ['x', 'y', 'z'] as const;

/** A target that is worked on. */
interface WorkedTarget {
  name: string;
  title: string;
  count: number;
}
/** One channel of a target that is worked on: what is drawn as a curve. */
export interface CurveLine {
  /** Which of the targets it belongs to; 0 is the one that was chosen first. */
  target: number;
  axis: number;
  title: string;
}

/**
 * The desk on which curves are worked: of a joint, the root, or a curve of the face, and of others beside it; their values frame by frame as they were captured and as they are, and
 * the keys that stand in their place. Channels are counted over all these targets. Frames count from the capture's first one.
 */
export function provideCurveDesk(open: OpenTake) {
  const isOpen = ref(false);
  const { work, solved, evaluation, frame } = open;
  const target = ref('leftUpperArm');
  /** Other targets that are worked on along with it. */
  const besides = ref<string[]>([]);
  /** Which of the axes are shown and worked on. */
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
  /** The targets that are worked on: those of one unit, which the same scale shows. */
  const worked = computed<readonly WorkedTarget[]>(() => {
    const motion = solved.value?.motion;
    if (!motion) return [];
    return targets.value
      .flatMap(({ value: name, title }) => {
        const there = name === target.value || besides.value.includes(name) ? channelsOf(motion, name) : null;
        return there && there.unit === found.value?.unit ? [{ name, title, count: there.count }] : [];
      })
      .sort((a, b) => Number(b.name === target.value) - Number(a.name === target.value));
  });
  const lines = computed<readonly CurveLine[]>(() =>
    worked.value.flatMap(({ title, count }, at) =>
      Array.from({ length: count }, (_, axis) => ({
        target: at,
        axis,
        title: count === 1 ? title : `${title}, ${AXES[axis]}`,
      })),
    ),
  );
  /** The lines that are shown and worked on. */
  const shown = computed<readonly number[]>(() =>
    [...lines.value.keys()].filter((i) => {
      const { target: of, axis } = lines.value[i];
      return worked.value[of].count === 1 || axes.value.includes(axis);
    }),
  );
  const frames = computed(() => solved.value?.motion.frames ?? 0);
  const titles = computed(() => (found.value?.count === 3 ? [...AXES] : [nameWords(target.value)]));
  const unit = computed(() => ({ degrees: '°', centimetres: 'cm', share: '' })[found.value?.unit ?? 'share']);
  const read = (motion: Motion): Float64Array[] => worked.value.flatMap(({ name }) => readChannels(motion, name) ?? []);
  /** What the capture tells, thin lines behind all. */
  const captured = computed(() => (isOpen.value && solved.value ? read(solved.value.motion) : null));

  const stored = computed(() => {
    const records = recordsOf(work.edits.value.records, 'curves');
    return worked.value.map(({ name }) => records.find((record) => record.target === name) ?? null);
  });
  const records = computed(() => stored.value.filter((record) => record !== null));
  /** Keys of all lines as they are kept. */
  const kept = computed<Channels>(() =>
    worked.value.flatMap(({ count }, at) => stored.value[at]?.channels ?? Array.from({ length: count }, () => [])),
  );
  /** Keys while they are dragged; null when nothing is. */
  const draft = shallowRef<Channels | null>(null);
  const channels = computed<Channels>(() => draft.value ?? kept.value);
  /** What the motion is with everything laid over it; while keys are dragged, what it was before: their own lines tell the rest. */
  const now = computed<Float64Array[] | null>((before) => {
    if (draft.value && before) return before;
    const motion = evaluation.evaluated.value?.motion;
    return isOpen.value && motion ? read(motion) : null;
  });
  watch([target, besides], () => {
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

  /** The edits with keys as given for all lines; the record of a target without any goes. */
  function withKeys(next: Channels): TakeEdits {
    let from = 0;
    return worked.value.reduce((edits, { name, count }, at) => {
      const own = next.slice(from, (from += count));
      const record = stored.value[at];
      if (own.every((keys) => keys.length === 0))
        return record ? withoutRecords(edits, ({ id }) => id === record.id) : edits;
      if (record && JSON.stringify(own) === JSON.stringify(record.channels)) return edits;
      return withRecord(
        edits,
        CurvesRecord.parse({ kind: 'curves', id: nanoid(10), ...record, target: name, channels: own }),
      );
    }, work.edits.value);
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
    if (next && JSON.stringify(next) !== JSON.stringify(kept.value)) return put(label, next);
    draft.value = null;
    evaluation.drag(null, 0);
  }

  /** Thins what the motion is now to few keys, target by target: between the first and the last chosen key, or all of it where fewer than two are chosen. */
  async function thin(): Promise<void> {
    const ends = chosen.value.map((place) => place.frame);
    const [from, until] = ends.length > 1 ? [Math.min(...ends), Math.max(...ends) + 1] : [0, frames.value];
    const wanted = worked.value;
    const found = [];
    for (const { name } of wanted) {
      const what = { target: name, run: [from, until] as [number, number], tolerance: tolerance.value };
      const made = await evaluation.thin(work.edits.value, what);
      // Others may have been chosen meanwhile.
      if (!made || wanted !== worked.value) return;
      found.push(made);
    }
    const beside = channels.value.map((keys) => keys.filter(({ frame: at }) => at < from || at >= until));
    picked.value = [];
    put(
      'thin to keys',
      found
        .flatMap((made) => made.channels)
        .map((keys, k) => [...(beside[k] ?? []), ...keys].sort((a, b) => a.frame - b.frame)),
    );
    const worst = found.map((made) => made.worst);
    thinned.value = worst.reduce((far, one) => (one.off > far.off ? one : far), worst[0] ?? null);
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
    lines,
    shown,
    channels,
    kept,
    chosen,
    tolerance,
    thinned,
    records,
    choose,
    drag,
    drop,
    thin,
    /** Puts keys at the shown frame into the channels that are shown. */
    insert(): void {
      const values = (now.value ?? []).map((row) => row[frame.value] ?? 0);
      put('put in a key', edit.insertKeys(channels.value, shown.value, frame.value, values));
      choose(shown.value.map((channel) => ({ channel, frame: frame.value })));
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
    /** Takes all keys of what is worked on away: the motion below shows again. */
    clear(): void {
      const [one, ...others] = records.value;
      if (one) work.changeEdits(others.length > 0 ? 'remove curves' : `remove ${curvesKind.words(one)}`, withKeys([]));
    },
    set(label: string, fields: Partial<Pick<CurvesRecord, 'ease' | 'muted'>>): void {
      const next = records.value.reduce(
        (edits, record) => withRecord(edits, { ...record, ...fields }),
        work.edits.value,
      );
      if (records.value.length > 0) work.changeEdits(label, next);
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
