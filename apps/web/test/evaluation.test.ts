import { nextTick, shallowRef } from 'vue';
import { averageProportions, humanoidSkeleton } from '@merry-shadow/core/motion/humanoid';
import { restMotion } from '@merry-shadow/core/motion/motion';
import { EditRecord } from '@merry-shadow/core/edits/registry';
import { NO_EDITS, type TakeEdits } from '@merry-shadow/core/edits/take-edits';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import type * as Evaluation from '../src/take/evaluation';
import type { EvaluationAnswer, EvaluationRequest } from '../src/take/evaluation-protocol';

/** The real worker's code runs here, with its messages played. */
let toWorker: (event: { data: EvaluationRequest }) => void = () => undefined;
let toPage: (event: { data: EvaluationAnswer }) => void = () => undefined;
const asked: EvaluationRequest[] = [];
const told: EvaluationAnswer[] = [];
class PlayedWorker {
  set onmessage(listener: typeof toPage) {
    toPage = listener;
  }
  postMessage(request: EvaluationRequest): void {
    const data = structuredClone(request);
    asked.push(data);
    toWorker({ data });
  }
  terminate(): void {}
}
jest.mock('vue', () => ({ ...jest.requireActual<object>('vue'), onUnmounted: () => undefined }));
jest.mock('../src/take/evaluation-worker-address', () => ({ startEvaluationWorker: () => new PlayedWorker() }));

const FRAMES = 60;
const solved = (): SolvedTake =>
  ({
    motion: restMotion(humanoidSkeleton(averageProportions(1.7)), FRAMES, 30),
    bridged: new Uint8Array(FRAMES),
    unseen: {},
    contacts: null,
  }) as unknown as SolvedTake;
const lift = (cm: number, range: [number, number] | null = null): TakeEdits => ({
  ...NO_EDITS,
  records: [EditRecord.parse({ kind: 'pass', id: 'h', pass: 'hip-height', options: { lift: cm }, range, ease: 0 })],
});
const rest = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 40));

let useEvaluation: typeof Evaluation.useEvaluation;
beforeAll(async () => {
  Object.assign(globalThis, {
    self: {
      set onmessage(listener: typeof toWorker) {
        toWorker = listener;
      },
    },
    postMessage: (data: EvaluationAnswer) => {
      told.push(data);
      toPage({ data });
    },
  });
  await import('../src/take/evaluation-worker');
  ({ useEvaluation } = await import('../src/take/evaluation'));
});

async function open() {
  const take = shallowRef<SolvedTake | null>(null);
  const edits = shallowRef<TakeEdits>(NO_EDITS);
  const evaluation = useEvaluation(take, edits);
  const motion = solved();
  take.value = motion;
  await nextTick();
  await rest();
  told.length = 0;
  return { evaluation, edits, take, motion };
}
const height = (evaluation: Awaited<ReturnType<typeof open>>['evaluation'], frame: number): number =>
  evaluation.evaluated.value?.motion.root[frame * 3 + 1] ?? NaN;

describe('evaluating in a worker', () => {
  it('sends the frames that changed, and the page has the same motion', async () => {
    const { evaluation, edits, motion } = await open();
    const before = evaluation.evaluated.value?.motion;
    const floor = height(evaluation, 0);
    edits.value = lift(10, [20, 30]);
    await rest();
    const answer = told.find((item) => 'changed' in item);
    expect(answer && 'changed' in answer && [answer.changed?.at, answer.changed?.frames.frames]).toEqual([20, 10]);
    expect([19, 20, 29, 30].map((frame) => Number((height(evaluation, frame) - floor).toFixed(4)))).toEqual([
      0, 0.1, 0.1, 0,
    ]);
    // Another object, so that what is drawn follows; the solved motion is left alone.
    expect(evaluation.evaluated.value?.motion).not.toBe(before);
    expect(motion.motion.root[20 * 3 + 1]).toBeCloseTo(floor, 5);
  });

  it('of many requests at once only the newest is worked on', async () => {
    const { evaluation, edits } = await open();
    for (let cm = 1; cm <= 20; cm++) edits.value = lift(cm);
    await rest();
    expect(told.filter((item) => 'changed' in item)).toHaveLength(1);
    expect(height(evaluation, 5) - solved().motion.root[16]).toBeCloseTo(0.2, 4);
  });

  it('looks for snags when nothing else waits', async () => {
    const { evaluation, edits } = await open();
    expect(evaluation.snags.value).toEqual([]);
    edits.value = lift(20);
    for (let tries = 0; tries < 100 && !evaluation.snags.value?.length; tries++) await rest();
    expect(evaluation.snags.value?.map(({ kind }) => kind)).toContain('hover');
  });

  it('looks for none where nobody asks for them', async () => {
    const edits = shallowRef(lift(20));
    const { snags, evaluated } = useEvaluation(shallowRef(solved()), edits, false);
    await rest();
    await rest();
    expect(evaluated.value).not.toBeNull();
    expect(snags.value).toBeNull();
  });

  it('shows a frame at once while something is dragged, then those about it, and all as it is afterwards', async () => {
    const { evaluation } = await open();
    const floor = height(evaluation, 0);
    told.length = 0;
    evaluation.drag(lift(30), 12);
    await rest();
    const runs = told.flatMap((one) => ('dragged' in one ? [[one.dragged.at, one.dragged.frames.frames]] : []));
    expect(runs).toEqual([
      [12, 1],
      [0, 28],
    ]);
    expect(height(evaluation, 12) - floor).toBeCloseTo(0.3, 4);
    expect(height(evaluation, 27) - floor).toBeCloseTo(0.3, 4);
    expect(height(evaluation, 28)).toBe(floor);
    evaluation.drag(null, 0);
    await rest();
    expect(height(evaluation, 12)).toBe(floor);
  });

  it('tells problems in a sentence, and goes on after them', async () => {
    const { evaluation, edits } = await open();
    edits.value = { ...NO_EDITS, records: [{ ...lift(1).records[0], pass: 'polish' } as EditRecord] };
    await rest();
    expect(evaluation.problem.value).toBe('There is no pass called "polish".');
    edits.value = lift(1);
    await rest();
    expect(evaluation.problem.value).toBe('');
  });

  it('begins anew with another solve', async () => {
    const { evaluation, edits, take } = await open();
    edits.value = lift(10);
    await rest();
    const other = solved();
    other.motion.root.fill(2);
    take.value = other;
    await nextTick();
    expect(evaluation.evaluated.value).toBeNull();
    await rest();
    expect(height(evaluation, 3)).toBeCloseTo(2.1, 4);
  });
});

describe('trying what mends', () => {
  const hover = async () => {
    const opened = await open();
    opened.edits.value = lift(12);
    await rest();
    await rest();
    const snag = opened.evaluation.snags.value?.find(({ kind }) => kind === 'hover');
    if (!snag) throw new Error('No snag is told.');
    return { ...opened, snag };
  };

  it('happens on a copy: the page keeps its motion, and is given what would be different', async () => {
    const { evaluation, edits, snag } = await hover();
    const before = height(evaluation, 30);
    const tried = await evaluation.tryMend(edits.value, snag);
    expect(tried.records).toMatchObject([{ kind: 'pass', pass: 'down-to-floor' }]);
    expect(tried.snags.some(({ kind }) => kind === 'hover')).toBe(false);
    expect(tried.changed?.frames.root[1]).toBeLessThan(before - 0.1);
    expect(height(evaluation, 30)).toBe(before);
    // Taken, it is just that.
    edits.value = { ...edits.value, records: [...edits.value.records, ...tried.records] };
    await rest();
    expect(height(evaluation, 30)).toBeCloseTo(tried.changed?.frames.root[30 * 3 + 1] ?? NaN, 6);
  });

  it('goes for all of a kind, and leaves others', async () => {
    const { evaluation, edits } = await hover();
    expect((await evaluation.tryMend(edits.value, { kind: null })).records).toHaveLength(1);
    expect((await evaluation.tryMend(edits.value, { kind: 'pop' })).records).toEqual([]);
  });

  it('fails with a sentence where the edits can not be evaluated', async () => {
    const { evaluation, edits, snag } = await hover();
    const broken = { ...edits.value, records: [{ ...edits.value.records[0], pass: 'polish' } as EditRecord] };
    await expect(evaluation.tryMend(broken, snag)).rejects.toThrow('There is no pass called "polish".');
  });
});
