import { computed, shallowRef, watch, type ComputedRef, type Ref } from 'vue';
import { NO_EDITS, shiftEdits, type TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { changeBetween, isEmptyChange, same, type Work } from '@merry-shadow/core/edits/work';
import { stateOf, workOf, type TakeState } from '@merry-shadow/contracts/take-work';
import { WorkHistory } from './work-history';
import type { KnownWork, WorkKeeper } from './work-keeper';

/** What a person makes of a take: name, range, settings and edits, with a way back. */
export interface TakeWork {
  /** null until it is known. */
  state: Readonly<Ref<TakeState | null>>;
  /** In frames of the capture. */
  edits: Readonly<Ref<TakeEdits>>;
  /** @param label what it is, as it stands behind "Undo". */
  change: (label: string, next: Partial<TakeState>) => void;
  /** Changes edits that count frames of the capture. */
  changeEdits: (label: string, next: TakeEdits) => void;
  undo: () => void;
  redo: () => void;
  /** What would be taken back or done again; null for nothing. */
  undoLabel: ComputedRef<string | null>;
  redoLabel: ComputedRef<string | null>;
}

/** Where the way back is kept over a reload. */
export interface HistoryStore {
  load: () => Promise<WorkHistory>;
  save: (history: WorkHistory) => Promise<void>;
}

/**
 * Holds the work on an open take: each change is a step that can be undone, and is kept.
 * @param stored as the server has it; it may come later and again.
 * @param first the clip's frame that the capture begins with.
 * @param keeping what brings it to the server; told what to do with work of another window.
 */
export function useTakeWork(
  stored: Ref<KnownWork | undefined>,
  first: Ref<number>,
  keeping: (changed: (work: Work) => void) => Pick<WorkKeeper, 'told' | 'keep'>,
  store: HistoryStore,
): TakeWork {
  const work = shallowRef<Work | null>(null);
  const history = shallowRef(new WorkHistory());
  const state = computed(() => work.value && stateOf(work.value));
  const edits = computed(() => shiftEdits(work.value?.edits ?? NO_EDITS, -first.value));
  const keeper = keeping((kept) => {
    if (!work.value || !same(kept, work.value)) work.value = kept;
  });
  watch(stored, (known) => known && keeper.told(known), { immediate: true });
  // What was done since this window was opened lies behind what was done before.
  void store.load().then((before) => {
    history.value = new WorkHistory(
      [...before.past, ...history.value.past],
      history.value.past.length > 0 ? [] : before.future,
    );
  });

  function go(next: { history: WorkHistory; work: Work; label: string } | null): void {
    if (!next) return;
    work.value = next.work;
    history.value = next.history;
    keeper.keep(next.work, next.label);
    void store.save(next.history);
  }

  function change(label: string, next: Partial<TakeState>): void {
    if (!work.value || !state.value) return;
    const wanted = plain(workOf({ ...state.value, ...next }));
    const made = changeBetween(work.value, wanted);
    if (!isEmptyChange(made)) go({ history: history.value.with({ label, change: made }), work: wanted, label });
  }

  return {
    state,
    edits,
    change,
    changeEdits: (label, next) => change(label, { edits: shiftEdits(next, first.value) }),
    undo: () => work.value && go(history.value.back(work.value)),
    redo: () => work.value && go(history.value.forth(work.value)),
    undoLabel: computed(() => history.value.past.at(-1)?.label ?? null),
    redoLabel: computed(() => history.value.future[0]?.label ?? null),
  };
}

/** Without Vue's proxies, which no storage takes. */
const plain = (work: Work): Work => JSON.parse(JSON.stringify(work)) as Work;
