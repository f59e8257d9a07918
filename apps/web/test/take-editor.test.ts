import { nextTick, ref, shallowRef, type Ref } from 'vue';
import { averageProportions, humanoidSkeleton } from '@merry-shadow/core/motion/humanoid';
import { restMotion } from '@merry-shadow/core/motion/motion';
import { Plant } from '@merry-shadow/core/ground/plants';
import { NO_EDITS, TakeEdits } from '@merry-shadow/core/edits/take-edits';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import type { StoredEdits } from '../src/edit/edit-keeper';
import type { EditRequest } from '../src/edit/edit-protocol';

/** The worker is played: it keeps what it is asked. */
const asked: EditRequest[] = [];
let answer: (data: object) => void = () => undefined;
class PlayedWorker {
  set onmessage(listener: (event: { data: object }) => void) {
    answer = (data) => listener({ data });
  }
  postMessage(request: EditRequest): void {
    asked.push(request);
  }
  terminate(): void {}
}
(globalThis as { Worker?: unknown }).Worker = PlayedWorker;
jest.mock('vue', () => ({ ...jest.requireActual<object>('vue'), onUnmounted: () => undefined }));
jest.mock('../src/edit/edit-worker-address', () => ({ startEditWorker: () => new PlayedWorker() }));

const solved = {
  motion: restMotion(humanoidSkeleton(averageProportions(1.7)), 30, 30),
  bridged: new Uint8Array(30),
  contacts: null,
} as unknown as SolvedTake;
const edits = (lift: number): TakeEdits =>
  TakeEdits.parse({ passes: [{ pass: 'hip-height', options: { lift }, range: [5, 10] }] });

async function open(stored: TakeEdits = NO_EDITS, first = 100) {
  asked.length = 0;
  const { useTakeEditor } = await import('../src/edit/take-editor');
  const take: Ref<SolvedTake | null> = shallowRef(null);
  const kept = ref({ edits: stored, revision: 1 }) as Ref<StoredEdits>;
  const begin = ref(first);
  const saved: TakeEdits[] = [];
  const editor = useTakeEditor(take, kept, begin, (changed) => ({
    told: ({ edits: told }) => changed(told),
    keep: (next) => void saved.push(next),
  }));
  take.value = solved;
  await nextTick();
  return { editor, kept, saved, begin };
}
const lastAsked = (): { id: number; edits: TakeEdits } => {
  const last = asked.at(-1);
  if (!last || !('edits' in last)) throw new Error('Nothing was asked.');
  return last;
};

describe('the edits of a take', () => {
  it('are evaluated from the start, in frames of the capture', async () => {
    const { editor } = await open({ ...edits(3), passes: edits(3).passes.map((s) => ({ ...s, range: [105, 110] })) });
    expect(asked.some((request) => 'solved' in request)).toBe(true);
    expect(lastAsked().edits.passes[0].range).toEqual([5, 10]);
    expect(editor.evaluated.value).toBeNull();
    answer({ id: lastAsked().id, evaluated: { snags: [] } });
    expect(editor.evaluated.value).toEqual({ snags: [] });
  });

  it('are saved in frames of the clip with each change, undone and done again', async () => {
    const { editor, saved } = await open();
    editor.change(edits(2));
    editor.change(edits(4));
    await nextTick();
    expect(saved.map((item) => [item.passes[0].options.lift, item.passes[0].range])).toEqual([
      [2, [105, 110]],
      [4, [105, 110]],
    ]);
    editor.undo();
    expect(editor.edits.value).toMatchObject(edits(2));
    editor.undo();
    editor.undo();
    expect(editor.edits.value).toEqual(NO_EDITS);
    expect(editor.canUndo.value).toBe(false);
    editor.redo();
    editor.redo();
    expect(editor.edits.value).toMatchObject(edits(4));
    expect(lastAsked().edits).toMatchObject(edits(4));
    // The pass keeps its id, so that another window knows it again.
    expect(new Set(saved.map(({ passes }) => passes[0]?.id)).size).toBe(2);
  });

  it('answers that came too late are left out, and problems are told', async () => {
    const { editor } = await open();
    const { id } = lastAsked();
    editor.change(edits(1));
    answer({ id, evaluated: { snags: ['old'] } });
    expect(editor.evaluated.value).toBeNull();
    answer({ id: lastAsked().id, problem: 'There is no pass called "polish".' });
    expect(editor.problem.value).toContain('polish');
  });

  it('follow what another window did, as a step that can be undone', async () => {
    const { editor, kept } = await open();
    const passes = edits(7).passes.map((step) => ({ ...step, range: [105, 110] as [number, number] }));
    kept.value = { edits: { ...edits(7), passes }, revision: 2 };
    await nextTick();
    expect(editor.edits.value).toMatchObject(edits(7));
    editor.undo();
    expect(editor.edits.value).toEqual(NO_EDITS);
  });

  it('stay in their place when another window edits and captures anew at once', async () => {
    const { editor, begin, kept } = await open();
    editor.change(edits(2));
    begin.value = 130;
    const range: [number, number] = [140, 150];
    kept.value = { edits: { ...edits(7), passes: edits(7).passes.map((step) => ({ ...step, range })) }, revision: 9 };
    await nextTick();
    expect(editor.edits.value.passes[0].range).toEqual([10, 20]);
    expect(lastAsked().edits.passes[0].range).toEqual([10, 20]);
    editor.undo();
    expect(editor.edits.value.passes[0].range).toEqual([-25, -20]);
  });

  it('lose nothing when the capture begins later, and have it back when it begins earlier again', async () => {
    const { editor, begin, saved } = await open();
    editor.change({ ...edits(2), plants: [Plant.parse({ part: 'leftHeel', from: 10, until: 20 })] });
    begin.value = 130;
    await nextTick();
    expect(editor.edits.value.plants).toMatchObject([{ from: -20, until: -10 }]);
    editor.change({ ...editor.edits.value, passes: [] });
    expect(saved.at(-1)?.plants).toMatchObject([{ from: 110, until: 120 }]);
    begin.value = 100;
    await nextTick();
    expect(editor.edits.value.plants).toMatchObject([{ from: 10, until: 20 }]);
    editor.undo();
    expect(editor.edits.value.passes).toMatchObject(edits(2).passes);
  });
});
