import { computed, onUnmounted, ref, shallowRef, watch, type Ref } from 'vue';
import { same, withIds } from '@merry-shadow/core/edits/merge-edits';
import { NO_EDITS, shiftEdits, type TakeEdits } from '@merry-shadow/core/edits/take-edits';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import type { EditAnswer, EditRequest, EvaluatedTake } from './edit-protocol';
import { startEditWorker } from './edit-worker-address';
import type { EditKeeper, StoredEdits } from './edit-keeper';
import { History } from './history';

/** What the screen needs of the edits of its take. */
export interface TakeEditor {
  /** In frames of the capture. */
  edits: Readonly<Ref<TakeEdits>>;
  evaluated: Readonly<Ref<EvaluatedTake | null>>;
  problem: Readonly<Ref<string>>;
  change: (edits: TakeEdits) => void;
  undo: () => void;
  redo: () => void;
  canUndo: Readonly<Ref<boolean>>;
  canRedo: Readonly<Ref<boolean>>;
}

/**
 * Keeps the edits of a take: evaluates them in a worker, has each change stored, and undoes.
 * @param stored as the server has them, in frames of the clip.
 * @param first the clip's frame that the capture begins with.
 * @param keeping what brings them to the server; told what to do with edits of another window.
 */
export function useTakeEditor(
  solved: Ref<SolvedTake | null>,
  stored: Ref<StoredEdits | undefined>,
  first: Ref<number>,
  keeping: (changed: (edits: TakeEdits) => void) => Pick<EditKeeper, 'told' | 'keep'>,
): TakeEditor {
  const worker = startEditWorker();
  onUnmounted(() => worker.terminate());
  /** In frames of the clip: a capture that begins elsewhere changes nothing in it. */
  const history = shallowRef(new History<TakeEdits>(NO_EDITS));
  const evaluated = shallowRef<EvaluatedTake | null>(null);
  const problem = ref('');
  const edits = computed(() => shiftEdits(history.value.present, -first.value));
  let newest = 0;

  worker.onmessage = ({ data }: MessageEvent<EditAnswer>) => {
    if (data.id !== newest) return;
    problem.value = 'problem' in data ? data.problem : '';
    if ('evaluated' in data) evaluated.value = data.evaluated;
  };
  const post = (request: EditRequest): void => worker.postMessage(request);
  const evaluate = (): void => {
    if (solved.value) post({ id: ++newest, edits: plain(edits.value) });
  };

  // At once: an answer to what was asked before counts no more.
  watch(edits, evaluate, { flush: 'sync' });
  watch(
    solved,
    (take) => {
      evaluated.value = null;
      if (!take) return;
      post({ solved: take });
      evaluate();
    },
    { immediate: true },
  );
  let opened = false;
  const keeper = keeping((kept) => {
    const named = withIds(kept);
    if (same(named, history.value.present)) return;
    // What another window did is a step like one's own; what the take is opened with is none.
    history.value = opened ? history.value.with(named) : new History(named);
  });
  watch(
    stored,
    (kept) => {
      if (!kept) return;
      keeper.told(kept);
      opened = true;
    },
    { immediate: true },
  );
  function go(next: History<TakeEdits>): void {
    if (next === history.value) return;
    history.value = next;
    keeper.keep(next.present);
  }

  return {
    edits,
    evaluated,
    problem,
    change: (next) => go(history.value.with(withIds(shiftEdits(plain(next), first.value)))),
    undo: () => go(history.value.back()),
    redo: () => go(history.value.forth()),
    canUndo: computed(() => history.value.past.length > 0),
    canRedo: computed(() => history.value.future.length > 0),
  };
}

/** Without Vue's proxies, which no worker takes. */
const plain = (edits: TakeEdits): TakeEdits => JSON.parse(JSON.stringify(edits)) as TakeEdits;
