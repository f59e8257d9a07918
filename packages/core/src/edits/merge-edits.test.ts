import { Plant } from '../ground/plants';
import { PassStep } from '../passes/run-passes';
import type { TakeEdits } from '../passes/take-edits';
import { mergeEdits, withIds } from './merge-edits';

const pass = (name: string, id?: string, strength = 1): PassStep => PassStep.parse({ pass: name, strength, id });
const plant = (from: number, until: number, id?: string): Plant => Plant.parse({ part: 'leftHeel', from, until, id });
const edits = (passes: PassStep[], plants: Plant[] | null = null): TakeEdits => ({ passes, plants });
const names = ({ passes }: TakeEdits): (string | undefined)[] => passes.map(({ id }) => id);

describe('ids of edits', () => {
  it('are given where there are none, each once, and stay', () => {
    const told = withIds(edits([pass('smooth'), pass('smooth'), pass('pops', 'smooth-2')], [plant(3, 9)]));
    expect(names(told)).toEqual(['smooth', 'smooth-3', 'smooth-2']);
    expect(told.plants?.[0].id).toBe('leftHeel-3');
    expect(withIds(told)).toEqual(told);
  });
});

describe('edits of two windows', () => {
  const [a, b, c] = [pass('smooth', 'a'), pass('pops', 'b'), pass('drift', 'c')];

  it('keep what either added, changed and took away', () => {
    const base = edits([a, b]);
    const { edits: told, conflicts } = mergeEdits(base, edits([a, { ...b, strength: 0.5 }]), edits([b, c]));
    expect(conflicts).toEqual([]);
    expect(told.passes).toEqual([{ ...b, strength: 0.5 }, c]);
  });

  it('keep the order of who changed it, and additions behind what they followed', () => {
    const base = edits([a, b]);
    const { edits: told } = mergeEdits(base, edits([b, a]), edits([a, c, b]));
    expect(names(told)).toEqual(['b', 'a', 'c']);
    expect(names(mergeEdits(base, edits([c, a, b]), base).edits)).toEqual(['c', 'a', 'b']);
  });

  it('tell what both changed differently, and keep the own one', () => {
    const [mine, theirs] = [0.2, 0.7].map((strength) => edits([{ ...a, strength }]));
    const { edits: told, conflicts } = mergeEdits(edits([a]), mine, theirs);
    expect(conflicts).toEqual(['the pass "smooth"']);
    expect(told.passes[0].strength).toBe(0.2);
    expect(mergeEdits(edits([a]), edits([]), theirs).conflicts).toHaveLength(1);
    expect(mergeEdits(edits([a]), mine, mine).conflicts).toEqual([]);
  });

  it('bring plants together that both began from those found', () => {
    const found = [plant(0, 10), plant(20, 30), plant(40, 50)];
    const ids = withIds(edits([], found)).plants as Plant[];
    const own = edits([], [{ ...ids[0], until: 14 }, ids[1], ids[2]]);
    const theirs = edits([], [ids[0], ids[2], plant(60, 70, 'new')]);
    const { edits: told, conflicts } = mergeEdits(edits([]), own, theirs, found);
    expect(conflicts).toEqual([]);
    expect(told.plants?.map(({ from, until }) => [from, until])).toEqual([
      [0, 14],
      [40, 50],
      [60, 70],
    ]);
    expect(mergeEdits(own, edits([], null), theirs, found).conflicts).toEqual(['the plants']);
    expect(mergeEdits(edits([]), edits([]), theirs, found).edits.plants).toHaveLength(3);
  });

  it('come to the same whoever merges, where they touch different records', () => {
    const base = edits([a, b, c]);
    const [one, two] = [edits([{ ...a, muted: true }, b, c]), edits([a, b, { ...c, strength: 0.1 }])];
    expect(mergeEdits(base, one, two).edits).toEqual(mergeEdits(base, two, one).edits);
  });
});
