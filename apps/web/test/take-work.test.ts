import { nextTick, ref, shallowRef } from 'vue';
import { EditRecord } from '@merry-shadow/core/edits/registry';
import { NO_EDITS, type TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { workOf, type TakeState } from '@merry-shadow/contracts/take-work';
import { TakeSettings } from '@merry-shadow/contracts/take';
import type { Work } from '@merry-shadow/core/edits/work';
import { useTakeWork } from '../src/take/take-work';
import { WorkHistory } from '../src/take/work-history';
import type { KnownWork } from '../src/take/work-keeper';

const pass = (lift: number, range: [number, number] = [5, 10]): EditRecord =>
  EditRecord.parse({ kind: 'pass', id: 'h', pass: 'hip-height', options: { lift }, range });
const edits = (...records: EditRecord[]): TakeEdits => ({ ...NO_EDITS, records });
const state = (of: Partial<TakeState> = {}): TakeState => ({
  name: 'Signals',
  fromFrame: 0,
  untilFrame: 300,
  settings: TakeSettings.parse({}),
  edits: NO_EDITS,
  ...of,
});

/** A take's work with a played keeper and a store in memory. */
async function open(stored: TakeState | null = state(), kept = { history: new WorkHistory() }) {
  const known = shallowRef<KnownWork | undefined>(stored ? { work: workOf(stored), revision: 1 } : undefined);
  const begin = ref(100);
  const saved: { work: Work; label: string }[] = [];
  let other: (work: Work) => void = () => undefined;
  const work = useTakeWork(
    known,
    begin,
    (changed) => {
      other = changed;
      return { told: ({ work: told }) => changed(told), keep: (next, label) => void saved.push({ work: next, label }) };
    },
    { load: async () => kept.history, save: async (history) => void (kept.history = history) },
  );
  await nextTick();
  return { work, known, saved, begin, kept, elsewhere: (next: TakeState) => other(workOf(next)) };
}
const ranges = ({ records }: TakeEdits): unknown[] => records.map((record) => 'range' in record && record.range);

describe('the work on a take', () => {
  it('is unknown at first, and nothing is changed before', async () => {
    const { work, known, saved } = await open(null);
    expect(work.state.value).toBeNull();
    work.change('rename', { name: 'Too early' });
    expect(saved).toEqual([]);
    known.value = { work: workOf(state()), revision: 1 };
    await nextTick();
    expect(work.state.value).toEqual(state());
  });

  it('is kept with each change: edits in frames of the clip, settings, range and name', async () => {
    const { work, saved } = await open();
    work.changeEdits('add hips', edits(pass(2)));
    work.change('set in and out', { fromFrame: 20 });
    work.change('rename', { name: 'Rope' });
    work.change('set height', { settings: TakeSettings.parse({ height: 1.7 }) });
    expect(saved.map(({ label }) => label)).toEqual(['add hips', 'set in and out', 'rename', 'set height']);
    expect(ranges(saved[0].work.edits)).toEqual([[105, 110]]);
    expect(saved[3].work.fields).toMatchObject({ name: 'Rope', fromFrame: 20, 'settings.height': 1.7 });
    // What changes nothing is no step.
    work.change('rename', { name: 'Rope' });
    expect(saved).toHaveLength(4);
  });

  it('is taken back and done again step by step, each with its name', async () => {
    const { work, saved } = await open();
    expect(work.undoLabel.value).toBeNull();
    work.undo();
    work.changeEdits('add hips', edits(pass(2)));
    work.change('set height', { settings: TakeSettings.parse({ height: 1.7 }) });
    expect(work.undoLabel.value).toBe('set height');
    work.undo();
    expect(work.state.value?.settings.height).toBeNull();
    expect([work.undoLabel.value, work.redoLabel.value]).toEqual(['add hips', 'set height']);
    expect(saved.at(-1)?.label).toBe('Undo: set height');
    work.undo();
    expect(work.edits.value).toEqual(NO_EDITS);
    work.redo();
    work.redo();
    work.redo();
    expect(work.state.value).toMatchObject({ settings: { height: 1.7 }, edits: { records: [{ id: 'h' }] } });
    // Something new: what had been taken back is forgotten.
    work.undo();
    work.change('rename', { name: 'Rope' });
    expect(work.redoLabel.value).toBeNull();
  });

  it('can be taken back after the window was closed and opened again', async () => {
    const first = await open();
    first.work.changeEdits('add hips', edits(pass(2)));
    first.work.change('rename', { name: 'Rope' });
    first.work.undo();
    const { state: last } = first.work;
    const { work } = await open(last.value, first.kept);
    expect([work.undoLabel.value, work.redoLabel.value]).toEqual(['add hips', 'rename']);
    work.undo();
    expect(work.edits.value).toEqual(NO_EDITS);
  });

  it('leaves what another window did when it is taken back', async () => {
    const { work, elsewhere } = await open();
    work.changeEdits('add hips', edits(pass(2)));
    const here = work.state.value as TakeState;
    const plant = EditRecord.parse({ kind: 'plant', id: 'p', part: 'leftToe', from: 130, until: 140 });
    elsewhere({ ...here, name: 'Named there', edits: edits(...here.edits.records, plant) });
    expect(work.undoLabel.value).toBe('add hips');
    work.undo();
    expect(work.state.value).toMatchObject({ name: 'Named there', edits: { records: [{ id: 'p' }] } });
  });

  it('loses nothing when the capture begins later, and has it back when it begins earlier again', async () => {
    const { work, begin, saved } = await open();
    work.changeEdits('add hips', edits(pass(2, [10, 20])));
    begin.value = 130;
    expect(ranges(work.edits.value)).toEqual([[-20, -10]]);
    work.changeEdits('change hips', edits(pass(4, [-20, -10])));
    expect(ranges(saved.at(-1)?.work.edits as TakeEdits)).toEqual([[110, 120]]);
    begin.value = 100;
    expect(ranges(work.edits.value)).toEqual([[10, 20]]);
    work.undo();
    expect(work.edits.value.records).toMatchObject([{ options: { lift: 2 }, range: [10, 20] }]);
  });

  it('keeps very many steps, and no more', () => {
    let history = new WorkHistory();
    const change = { fields: {}, records: {}, order: null, foundPlants: null };
    for (let i = 0; i < 5100; i++) history = history.with({ label: String(i), change });
    expect(history.past).toHaveLength(5000);
    expect(history.past.at(-1)?.label).toBe('5099');
  });
});
