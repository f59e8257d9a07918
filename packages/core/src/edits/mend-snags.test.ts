import { exampleMotion } from '../../test/example-motion';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { copyMotion, readRotation, restMotion, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import type { Snag } from '../snags/snag';
import { TakeEvaluator } from './evaluate/take-evaluator';
import { DismissedRecord } from './kinds/dismissed-record';
import { isBetter, mendAll, openSnags, tryMend } from './mend-snags';
import { NO_EDITS, shiftEdits, TakeEdits } from './take-edits';

const KNOWN = { bridged: new Uint8Array(120), contacts: null };

/** A motion with an arm that jumps away for a frame in some places. */
function popped(frames: readonly number[]): Motion {
  const motion = copyMotion(exampleMotion(120));
  const arm = jointIndex(motion.skeleton, 'rightUpperArm');
  for (const frame of frames) {
    const turn = readRotation(motion, arm, frame, [0, 0, 0, 1]);
    writeRotation(motion, arm, frame, [turn[3], turn[2], -turn[1], -turn[0]]);
  }
  return motion;
}

const evaluatorOf = (motion: Motion): TakeEvaluator => new TakeEvaluator({ motion, ...KNOWN });
const snag = (fields: Partial<Snag>): Snag => ({
  kind: 'slide',
  joint: 'leftHeel',
  from: 10,
  until: 20,
  severity: 8,
  unit: 'cm',
  mends: [],
  ...fields,
});
let next = 0;
const newId = (): string => `n${next++}`;

describe('mending', () => {
  it('is offered where the snag is gone and nothing came up, and leaves the take alone', () => {
    const evaluator = evaluatorOf(popped([40]));
    const { snags } = openSnags(evaluator, NO_EDITS, KNOWN);
    const pop = snags.find(({ kind }) => kind === 'pop') as Snag;
    const tried = tryMend(evaluator, NO_EDITS, KNOWN, pop, snags, newId);
    expect(tried?.records).toMatchObject([{ kind: 'pass', pass: 'remove-pops' }]);
    expect(tried?.snags.some(({ kind }) => kind === 'pop')).toBe(false);
    expect(openSnags(evaluator, NO_EDITS, KNOWN).snags).toEqual(snags);
    // What is known of a take may come with its own motion, which is not looked at.
    const whole = { motion: popped([40]), ...KNOWN };
    expect(openSnags(evaluator, tried!.edits, whole).snags).toEqual(tried?.snags);
  });

  it('goes on to the next proposal where the first makes nothing better', () => {
    const evaluator = evaluatorOf(popped([40]));
    const { snags } = openSnags(evaluator, NO_EDITS, KNOWN);
    const pop = snags.find(({ kind }) => kind === 'pop') as Snag;
    const [good] = pop.mends;
    const useless = { plants: [{ part: 'leftHeel' as const, from: 5, until: 9, ease: 3, place: null }] };
    expect(tryMend(evaluator, NO_EDITS, KNOWN, { ...pop, mends: [useless] }, snags, newId)).toBeNull();
    const tried = tryMend(evaluator, NO_EDITS, KNOWN, { ...pop, mends: [useless, good] }, snags, newId);
    expect(tried?.records[0].kind).toBe('pass');
  });

  it('of many leaves fewer, and is told how many', () => {
    const evaluator = evaluatorOf(popped([30, 60, 90]));
    const before = openSnags(evaluator, NO_EDITS, KNOWN).snags;
    const all = mendAll(evaluator, NO_EDITS, KNOWN, newId);
    expect(all.mended).toBeGreaterThan(0);
    expect(all.snags.length).toBeLessThan(before.length);
    expect(openSnags(evaluator, all.edits, KNOWN).snags).toEqual(all.snags);
    const none = mendAll(evaluator, NO_EDITS, KNOWN, newId, ({ kind }) => kind === 'gap');
    expect(none).toMatchObject({ edits: NO_EDITS, mended: 0 });
  });

  it.each([
    ['gone', [], true],
    ['little less', [snag({ severity: 6 })], false],
    ['much less', [snag({ severity: 2 })], true],
    ['with another that is new', [snag({ joint: 'rightHeel', severity: 2.1 })], false],
    ['with another that grew', [snag({ kind: 'pop', joint: 'head', severity: 30, unit: '°' })], false],
    ['with another that stayed', [snag({ kind: 'pop', joint: 'head', severity: 20, unit: '°' })], true],
  ])('is better when the snag is %s: %#', (_, after, better) => {
    const before = [snag({}), snag({ kind: 'pop', joint: 'head', severity: 20, unit: '°' })];
    expect(isBetter(before[0], before, after)).toBe(better);
  });
});

describe('snags that are not told', () => {
  it('are those that a person dismissed, wherever the take begins', () => {
    const evaluator = evaluatorOf(popped([40]));
    const [first] = openSnags(evaluator, NO_EDITS, KNOWN).snags;
    const record = DismissedRecord.parse({
      kind: 'dismissed',
      id: 'd',
      snag: first.kind,
      joint: first.joint,
      from: first.from + 100,
      until: first.until + 100,
    });
    const edits = shiftEdits(TakeEdits.parse({ records: [record], version: 2 }), -100);
    expect(openSnags(evaluator, edits, KNOWN).snags).not.toContainEqual(first);
  });

  it('are gaps that a pass fills', () => {
    const bridged = Uint8Array.from({ length: 120 }, (_, f) => (f >= 50 && f < 70 ? 1 : 0));
    const known = { bridged, contacts: null };
    const evaluator = new TakeEvaluator({ motion: exampleMotion(120), ...known });
    const told = openSnags(evaluator, NO_EDITS, known).snags.filter(({ kind }) => kind === 'gap');
    expect(told).toHaveLength(1);
    const tried = tryMend(evaluator, NO_EDITS, known, told[0], told, newId);
    expect(tried?.snags.filter(({ kind }) => kind === 'gap')).toEqual([]);
  });

  it('are feet that move by the picture, too', () => {
    const motion = restMotion(humanoidSkeleton(averageProportions(1.7)), 120, 30);
    for (let f = 0; f < 120; f++) motion.root[f * 3] += 0.006 * Math.max(0, Math.min(f, 60) - 40);
    const slides = (rests: 0 | 1 | null): number => {
      const resting = new Uint8Array(120).fill(rests ?? 0);
      const contacts = { leftHeel: resting, leftToe: resting, rightHeel: resting, rightToe: resting };
      const known = { ...KNOWN, contacts: rests === null ? null : contacts };
      return openSnags(evaluatorOf(motion), NO_EDITS, known).snags.filter(({ kind }) => kind === 'slide').length;
    };
    expect(slides(null)).toBeGreaterThan(0);
    expect(slides(1)).toBe(slides(null));
    expect(slides(0)).toBe(0);
  });
});
