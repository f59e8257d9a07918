import { computed, onUnmounted, ref, shallowRef, watch, type Ref } from 'vue';
import { NO_EDITS, shiftEdits, type TakeEdits } from '@merry-shadow/core/passes/take-edits';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import type { EditAnswer, EditRequest, EvaluatedTake } from './edit-protocol';
import { startEditWorker } from './edit-worker-address';
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
 * Keeps the edits of a take: evaluates them in a worker, saves each change, and undoes.
 * @param stored as the server has them, in frames of the clip.
 * @param first the clip's frame that the capture begins with.
 * @param save stores edits in frames of the clip.
 */
export function useTakeEditor(
  solved: Ref<SolvedTake | null>,
  stored: Ref<TakeEdits | undefined>,
  first: Ref<number>,
  save: (edits: TakeEdits) => Promise<void>,
): TakeEditor {
  const worker = startEditWorker();
  onUnmounted(() => worker.terminate());
  const history = shallowRef(new History<TakeEdits>(NO_EDITS));
  const evaluated = shallowRef<EvaluatedTake | null>(null);
  const problem = ref('');
  const edits = computed(() => history.value.present);
  let newest = 0;
  /** Changes that are on their way to the server: what it tells meanwhile is out of date. */
  let saving = 0;

  worker.onmessage = ({ data }: MessageEvent<EditAnswer>) => {
    if (data.id !== newest) return;
    problem.value = 'problem' in data ? data.problem : '';
    if ('evaluated' in data) evaluated.value = data.evaluated;
  };
  const post = (request: EditRequest): void => worker.postMessage(request);
  const evaluate = (): void => {
    if (solved.value) post({ id: ++newest, edits: plain(edits.value) });
  };

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
  watch(
    [stored, first],
    ([kept]) => {
      if (!kept || saving > 0) return;
      const own = shiftEdits(kept, -first.value);
      if (JSON.stringify(own) === JSON.stringify(edits.value)) return;
      history.value = new History(own);
      evaluate();
    },
    { immediate: true },
  );

  async function go(next: History<TakeEdits>): Promise<void> {
    if (next === history.value) return;
    history.value = next;
    evaluate();
    saving++;
    await save(shiftEdits(plain(next.present), first.value)).finally(() => saving--);
  }

  return {
    edits,
    evaluated,
    problem,
    change: (next) => void go(history.value.with(next)),
    undo: () => void go(history.value.back()),
    redo: () => void go(history.value.forth()),
    canUndo: computed(() => history.value.past.length > 0),
    canRedo: computed(() => history.value.future.length > 0),
  };
}

/** Without Vue's proxies, which no worker takes. */
const plain = (edits: TakeEdits): TakeEdits => JSON.parse(JSON.stringify(edits)) as TakeEdits;
