import { mergeWork } from './merge-work';
import { EditRecord } from './registry';
import { NO_EDITS } from './take-edits';
import { changeBetween, isEmptyChange, turnedRound, withChange, type Work } from './work';

const pass = (id: string, strength = 1): EditRecord => EditRecord.parse({ kind: 'pass', id, pass: 'smooth', strength });
const plant = (from: number, until: number): EditRecord =>
  EditRecord.parse({ kind: 'plant', id: `p${from}`, part: 'leftHeel', from, until });
const work = (records: EditRecord[], fields: Record<string, unknown> = { name: 'Signals' }): Work => ({
  fields,
  edits: { ...NO_EDITS, records },
});
const ids = ({ edits }: Work): string[] => edits.records.map(({ id }) => id);
const [a, b, c] = [pass('a'), pass('b'), pass('c')];

describe('changes of work', () => {
  const states = [
    work([]),
    work([a, b]),
    work([b, a, c]),
    work([pass('a', 0.5), plant(3, 9)], { name: 'Rope', 'settings.height': 1.7 }),
    { ...work([c, plant(3, 12), a]), edits: { ...NO_EDITS, foundPlants: false, records: [c, plant(3, 12), a] } },
  ];

  it('lead from one to the other and back', () => {
    for (const before of states)
      for (const after of states) {
        const change = changeBetween(before, after);
        expect(isEmptyChange(change)).toBe(before === after);
        expect(withChange(before, change).edits).toEqual(after.edits);
        expect(withChange(after, turnedRound(change))).toMatchObject({ ...before, fields: before.fields });
      }
  });

  it('leave what they do not name as it has become meanwhile', () => {
    const change = changeBetween(work([a]), work([pass('a', 0.5)]));
    const later = work([plant(0, 4), a, b], { name: 'Planks' });
    expect(withChange(later, change)).toEqual(work([plant(0, 4), pass('a', 0.5), b], { name: 'Planks' }));
    // What was taken away by somebody else comes back with the change that is taken back.
    expect(ids(withChange(work([b]), turnedRound(change)))).toEqual(['b', 'a']);
  });

  it('do not mind the order of fields within a record', () => {
    const [one, two] = [
      { height: 1, width: 2 },
      { width: 2, height: 1 },
    ];
    expect(isEmptyChange(changeBetween(work([], { size: one }), work([], { size: two })))).toBe(true);
  });
});

describe('work of two windows', () => {
  it('keeps what either added, changed and took away', () => {
    const base = work([a, b]);
    const { work: told, conflicts } = mergeWork(base, work([a, pass('b', 0.5)]), work([b, c], { name: 'Rope' }));
    expect(conflicts).toEqual([]);
    expect(told).toEqual(work([pass('b', 0.5), c], { name: 'Rope' }));
  });

  it('keeps the order of who changed it, and additions behind what they followed', () => {
    const base = work([a, b]);
    expect(ids(mergeWork(base, work([b, a]), work([a, c, b])).work)).toEqual(['b', 'a', 'c']);
    expect(ids(mergeWork(base, work([c, a, b]), base).work)).toEqual(['c', 'a', 'b']);
  });

  it('tells what both changed differently, and keeps the own one', () => {
    const [mine, theirs] = [0.2, 0.7].map((strength) => work([pass('a', strength)], { name: `of ${strength}` }));
    const { work: told, conflicts } = mergeWork(work([a]), mine, theirs);
    expect(conflicts).toEqual(['the name', 'the pass "Smooth"']);
    expect(told).toEqual(mine);
    expect(mergeWork(work([a]), work([]), work([pass('a', 0.7)])).conflicts).toEqual(['the pass "Smooth"']);
    expect(mergeWork(work([a]), mine, mine).conflicts).toEqual([]);
    const height = (metres: number): Work => work([], { 'settings.height': metres });
    expect(mergeWork(work([], {}), height(1.6), height(1.8)).conflicts).toEqual(['the setting "height"']);
  });

  it('comes to the same whoever merges, where they touch different records', () => {
    const base = work([a, b, plant(0, 5)]);
    const one = work([pass('a', 0.1), b, plant(0, 5)]);
    const two = work([a, b, plant(0, 9)]);
    expect(mergeWork(base, one, two).work).toEqual(mergeWork(base, two, one).work);
  });
});
