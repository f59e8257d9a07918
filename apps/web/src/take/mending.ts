import { nanoid } from 'nanoid';
import { computed, inject, provide, ref, shallowRef, watch, type InjectionKey } from 'vue';
import { DismissedRecord } from '@merry-shadow/core/edits/kinds/dismissed-record';
import { copyMotion, type Motion } from '@merry-shadow/core/motion/motion';
import { setFrames } from '@merry-shadow/core/signal/slice-motion';
import { snagTitle } from '@merry-shadow/core/snags/registry';
import { isSameSnag, type Snag, type SnagKind } from '@merry-shadow/core/snags/snag';
import { plural } from '../shell/words';
import { attempt } from '../shell/trouble';
import type { TrialResult } from './evaluation-protocol';
import type { OpenTake } from './open-take';

/** Going through the snags of an open take: the chosen one, what was tried for it, and what is done about it. Made once by the take's screen. */
export function provideMending(open: OpenTake) {
  const { work, evaluation, shown, firstObserved } = open;
  const snags = computed(() => evaluation.snags.value ?? []);
  const kind = ref<SnagKind | null>(null);
  const listed = computed(() => snags.value.filter((snag) => kind.value === null || snag.kind === kind.value));
  const chosen = shallowRef<Snag | null>(null);
  /** What was tried for the chosen snag; null while it is being tried. */
  const tried = shallowRef<TrialResult | null>(null);
  /** What the last mending of many came to, in words. */
  const summary = ref('');
  const working = ref(false);
  /** Whether the capture is shown beside the motion, as a pale figure. */
  const capture = ref(false);

  // The one that was chosen, as it is told now.
  watch(snags, (list) => {
    const now = chosen.value;
    if (now) void choose(list.find((snag) => isSameSnag(snag, now)) ?? null, false);
  });

  async function choose(snag: Snag | null, go = true): Promise<void> {
    chosen.value = snag;
    tried.value = null;
    if (!snag) return;
    if (go) open.goTo(Math.floor((snag.from + snag.until - 1) / 2) + firstObserved.value);
    const result = await evaluation.tryMend(work.edits.value, snag).catch((): null => null);
    if (chosen.value === snag) tried.value = result ?? { records: [], snags: snags.value.slice(), changed: null };
  }

  function lay(label: string, records: TrialResult['records']): void {
    work.changeEdits(label, { ...work.edits.value, records: [...work.edits.value.records, ...records] });
  }

  /** The pale figure: the motion with what is proposed, or the capture. */
  const pale = computed<Motion | null>(() => {
    const motion = shown.value?.motion;
    const changed = tried.value?.changed;
    if (motion && changed && !open.before.value) {
      const proposed = copyMotion(motion);
      setFrames(proposed, changed.frames, changed.at);
      return proposed;
    }
    return capture.value && !open.before.value ? (open.solved.value?.motion ?? null) : null;
  });

  const mending = {
    snags,
    kind,
    listed,
    chosen,
    tried,
    summary,
    working,
    capture,
    pale,
    choose,
    /** Goes to the next snag of the list, or the one before; round the ends. */
    step(by: 1 | -1): void {
      const list = listed.value;
      const at = list.findIndex((snag) => chosen.value !== null && isSameSnag(snag, chosen.value));
      const next = list[(at < 0 ? (by > 0 ? 0 : list.length - 1) : at + by + list.length) % list.length];
      if (next) void choose(next);
    },
    /** Takes what is proposed, and goes to the next one. */
    take(): void {
      const [snag, result] = [chosen.value, tried.value];
      if (!snag || !result || result.records.length === 0) return;
      const next = after(snag);
      lay(`mend ${snagTitle(snag.kind).toLowerCase()}`, result.records);
      void choose(next);
    },
    /** Takes what is proposed, and goes to where it can be changed. */
    adapt(): void {
      const [snag, result] = [chosen.value, tried.value];
      if (!snag || !result || result.records.length === 0) return;
      const [first] = result.records;
      lay(`mend ${snagTitle(snag.kind).toLowerCase()}`, result.records);
      open.panel.value = first.kind === 'tether' ? 'pose' : 'clean';
      if (first.kind === 'plant') open.selected.value = first.id;
    },
    /** Leaves the snag as it is, for good. */
    dismiss(): void {
      const snag = chosen.value;
      if (!snag) return;
      const { kind: of, joint, from, until } = snag;
      const next = after(snag);
      const record = DismissedRecord.parse({ kind: 'dismissed', id: nanoid(10), snag: of, joint, from, until });
      lay(`dismiss ${snagTitle(of).toLowerCase()}`, [record]);
      void choose(next);
    },
    /** Mends all of the listed kind, as far as it makes them better. */
    async mendAll(): Promise<void> {
      working.value = true;
      await attempt(async () => {
        const before = listed.value.length;
        const { records, snags: left } = await evaluation.tryMend(work.edits.value, { kind: kind.value });
        const still = left.filter((snag) => kind.value === null || snag.kind === kind.value).length;
        if (records.length > 0)
          lay(kind.value ? `mend all: ${snagTitle(kind.value).toLowerCase()}` : 'mend all', records);
        summary.value =
          records.length === 0
            ? `Nothing was found that makes them better. ${plural(still, 'is', 'are')} left for you to judge.`
            : `${before - still} of ${before} are gone. ${still === 0 ? 'None is left.' : `${plural(still, 'is', 'are')} left for you to judge.`}`;
      });
      working.value = false;
    },
  };
  /** The snag behind one in the list. */
  function after(snag: Snag): Snag | null {
    const at = listed.value.indexOf(snag);
    return listed.value[at + 1] ?? listed.value[at - 1] ?? null;
  }
  provide(KEY, mending);
  return mending;
}

export type MendingSnags = ReturnType<typeof provideMending>;
const KEY = Symbol('mending') as InjectionKey<MendingSnags>;

/** The snags of the take that is open. @throws Error outside a take's screen. */
export function useMending(): MendingSnags {
  const mending = inject(KEY);
  if (!mending) throw new Error('No take is open here.');
  return mending;
}
