import { Plant } from '../ground/plants';
import { plantsOf, withPlant, type HeldPlant } from './plants-of';
import { recordsOf } from './registry';
import { NO_EDITS, shiftEdits, TakeEdits } from './take-edits';

const held = (part: Plant['part'], from: number, until: number): HeldPlant => ({
  ...Plant.parse({ part, from, until, ease: 5 }),
  id: `found-${part}-${from}`,
});
const found = [held('leftHeel', 10, 20), held('leftHeel', 30, 50), held('rightToe', 12, 40)];
const spans = (plants: readonly HeldPlant[]): unknown[] => plants.map(({ part, from, until }) => [part, from, until]);

describe('documents of edits', () => {
  it('of the first form become records: passes, timing, and plants instead of those found', () => {
    const first = {
      passes: [
        { pass: 'smooth', options: {}, muted: true, strength: 0.5, range: [3, 9], ease: 5, parts: null },
        { id: 'own', pass: 'resample', options: { rate: 24 }, muted: false, strength: 1, range: null, parts: null },
        { pass: 'smooth' },
        { pass: 'retime', options: {}, strength: 0 },
      ],
      plants: [{ part: 'leftToe', from: 4, until: 9, ease: 3, place: [0, 0, 1] }],
    };
    const edits = TakeEdits.parse(first);
    expect(edits.foundPlants).toBe(false);
    expect(edits.records.map(({ id, kind, muted }) => [id, kind, muted])).toEqual([
      ['smooth', 'pass', true],
      ['own', 'timing', false],
      ['smooth-2', 'pass', false],
      ['retime', 'timing', true],
      ['leftToe-4', 'plant', false],
    ]);
    expect(recordsOf(edits.records, 'pass')[0]).toMatchObject({ strength: 0.5, range: [3, 9] });
    expect(recordsOf(edits.records, 'plant')[0]).toMatchObject(first.plants[0]);
    expect(TakeEdits.parse({ passes: [], plants: null })).toEqual(NO_EDITS);
    expect(TakeEdits.parse(edits)).toEqual(edits);
  });

  it('refuse what is none', () => {
    for (const wrong of [
      null,
      [],
      { passes: 3 },
      { version: 3 },
      { version: 2, records: [{ kind: 'dance', id: 'a' }] },
    ])
      expect(TakeEdits.safeParse(wrong).success).toBe(false);
  });

  it('keep all when they are counted from elsewhere and back', () => {
    const edits = TakeEdits.parse({
      version: 2,
      records: [
        { kind: 'pass', id: 'a', pass: 'smooth', range: [10, 20] },
        { kind: 'plant', id: 'b', part: 'leftToe', from: 10, until: 20 },
        { kind: 'found-plant', id: 'c', part: 'leftHeel', from: 3, until: 9, change: { until: 12 } },
        { kind: 'found-plant', id: 'd', part: 'leftHeel', from: 0, until: 2, change: null },
      ],
    });
    const later = shiftEdits(edits, -30);
    expect(recordsOf(later.records, 'pass')[0].range).toEqual([-20, -10]);
    expect(recordsOf(later.records, 'found-plant')[0]).toMatchObject({ from: -27, until: -21, change: { until: -18 } });
    expect(shiftEdits(later, 30)).toEqual(edits);
  });
});

describe('plants that were found', () => {
  it('hold as they are until something is done to them', () => {
    expect(plantsOf(NO_EDITS, found)).toHaveLength(3);
    expect(plantsOf({ ...NO_EDITS, foundPlants: false }, found)).toEqual([]);
  });

  it('are moved, taken away and joined by own ones, each by its id', () => {
    let edits = withPlant(NO_EDITS, found, 'found-leftHeel-30', { until: 60 });
    edits = withPlant(edits, found, 'found-rightToe-12', null);
    const own = {
      ...Plant.parse({ part: 'leftHand', from: 0, until: 8 }),
      kind: 'plant' as const,
      id: 'n',
      muted: false,
    };
    edits = { ...edits, records: [...edits.records, own] };
    expect(spans(plantsOf(edits, found))).toEqual([
      ['leftHand', 0, 8],
      ['leftHeel', 10, 20],
      ['leftHeel', 30, 60],
    ]);
    // The same one again, and one that was set.
    const now = plantsOf(edits, found);
    edits = withPlant(withPlant(edits, now, 'found-leftHeel-30', { from: 33 }), now, 'n', { ease: 1 });
    expect(edits.records).toHaveLength(3);
    expect(plantsOf(edits, found).map(({ from, until, ease }) => [from, until, ease])).toEqual([
      [0, 8, 1],
      [10, 20, 5],
      [33, 60, 5],
    ]);
    expect(plantsOf(withPlant(edits, now, 'n', null), found)).toHaveLength(2);
    expect(withPlant(edits, now, 'nobody', null)).toBe(edits);
  });

  it('get better with a better solve, what a person did stays', () => {
    let edits = withPlant(NO_EDITS, found, 'found-leftHeel-30', { until: 60 });
    edits = withPlant(edits, found, 'found-leftHeel-10', null);
    const better = [held('leftHeel', 8, 19), held('leftHeel', 28, 52), held('leftHeel', 70, 90)];
    expect(spans(plantsOf(edits, better))).toEqual([
      ['leftHeel', 28, 60],
      ['leftHeel', 70, 90],
    ]);
    // No longer found: what was changed stays, what was taken away stays away.
    expect(spans(plantsOf(edits, []))).toEqual([['leftHeel', 30, 60]]);
  });

  it('come back when what was done to them is left out', () => {
    const { records } = withPlant(NO_EDITS, found, 'found-leftHeel-10', null);
    expect(plantsOf({ ...NO_EDITS, records: records.map((record) => ({ ...record, muted: true })) }, found)).toEqual(
      plantsOf(NO_EDITS, found),
    );
  });
});
