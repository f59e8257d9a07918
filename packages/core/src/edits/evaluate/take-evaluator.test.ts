import { quat } from 'gl-matrix';
import { exampleMotion } from '../../../test/example-motion';
import { copyMotion, readRotation, type Motion } from '../../motion/motion';
import { runPasses } from '../../passes/run-passes';
import { ResultTooLongError } from '../../passes/result-size';
import { recordsOf, type EditRecord } from '../registry';
import { NO_EDITS, TakeEdits } from '../take-edits';
import { finishedMotion, TakeEvaluator, type Evaluated } from './take-evaluator';

const FRAMES = 150;
const motion = withFace(exampleMotion(FRAMES));
const bridged = Uint8Array.from({ length: FRAMES }, (_, f) => (f > 70 && f < 76 ? 1 : 0));
const rests = (first: number): Float64Array =>
  Float64Array.from({ length: FRAMES }, (_, f) => ((f + first) % 40 < 22 ? 1 : 0));
const contacts = Object.fromEntries(
  ['leftHeel', 'leftToe', 'rightHeel', 'rightToe'].map((name, i) => [name, rests(i * 9)]),
) as unknown as Evaluated['contacts'];
const solved: Evaluated = { motion, bridged, contacts };

function withFace(body: Motion): Motion {
  const values = Float32Array.from({ length: body.frames }, (_, f) => (f % 30 < 3 ? 1 : 0.1));
  return { ...body, curves: [{ name: 'face.eyeBlinkLeft', values }] };
}

/** A linear congruential generator (Park and Miller): the same documents in every run. */
function dice(seed: number): (sides: number) => number {
  let state = seed;
  return (sides) => {
    state = (state * 48271) % 2147483647;
    return state % sides;
  };
}

const NAMES = ['smooth', 'hip-height', 'swap-sides', 'keep-apart', 'root-drift', 'remove-pops', 'fill-gaps'];

function randomRecord(roll: (sides: number) => number, id: string): EditRecord {
  const from = roll(FRAMES) - 10;
  const until = from + roll(60);
  const place = roll(3) === 0 ? [roll(10) / 10, 0, roll(10) / 10] : null;
  if (roll(3) === 0)
    return plain({
      kind: 'plant',
      id,
      part: (['leftToe', 'rightHeel', 'leftHand', 'leftHeel'] as const)[roll(4)],
      from,
      until,
      ease: roll(8),
      place,
    });
  if (roll(4) === 0) return randomLayer(roll, id, from);
  if (roll(5) === 0) return plain({ kind: 'between', id, from, until, parts: roll(2) ? null : ['leftLeg', 'face'] });
  if (roll(6) === 0) {
    const joint = (['leftHand', 'hips', 'rightFoot'] as const)[roll(3)];
    return plain({ kind: 'tether', id, joint, to: roll(2) ? 'head' : null, place: [0.2, 0.1, 0.3], from, until });
  }
  if (roll(7) === 0) {
    const between = (['captured', 'held', 'straight', 'eased'] as const)[roll(4)];
    const poses = Array.from({ length: roll(5) }, (_, i) => ({ frame: from + i * 13, as: 'extreme' as const }));
    return plain({ kind: 'key-poses', id, poses, between });
  }
  const pass = NAMES[roll(NAMES.length)];
  const options = pass === 'hip-height' ? { lift: roll(20) - 10 } : {};
  const range = roll(4) === 0 ? null : [from, until];
  const parts = roll(3) === 0 ? ['leftArm', 'root', 'face'] : null;
  return plain({ kind: 'pass', id, pass, options, range, parts, ease: roll(10), strength: 1 - roll(5) / 5 });
}

function randomLayer(roll: (sides: number) => number, id: string, from: number): EditRecord {
  const turn = (): number[] => [roll(10) / 20, roll(10) / 20, roll(10) / 20, 1];
  const keys = Array.from({ length: roll(4) }, (_, i) => ({
    frame: from + i * 7,
    turns: { leftUpperArm: turn(), ...(roll(2) ? { hips: turn() } : {}) },
    root: roll(2) ? [roll(5) / 50, 0, 0] : null,
  }));
  const mode = roll(3) === 0 ? 'override' : 'offset';
  return plain({ kind: 'layer', id, name: 'by hand', mode, ease: roll(12), hold: roll(5) === 0, keys });
}

const plain = (record: object): EditRecord => TakeEdits.parse({ version: 2, records: [record] }).records[0];

/** The document after a change such as a person makes: something added, taken away, moved, muted or changed. */
function changed(edits: TakeEdits, roll: (sides: number) => number, round: number): TakeEdits {
  const records = [...edits.records];
  const at = roll(records.length + 1);
  const record = records[at];
  const what = record === undefined ? 0 : roll(6);
  if (what === 0) records.splice(at, 0, randomRecord(roll, `r${round}`));
  else if (what === 1) records.splice(at, 1);
  else if (what === 2) records.splice(roll(records.length), 0, ...records.splice(at, 1));
  else if (what === 3) records[at] = { ...record, muted: !record.muted };
  else if (what === 4) records[at] = randomRecord(roll, record.id);
  else {
    const held = new TakeEvaluator(solved).plants(edits);
    const plant = held[roll(held.length)];
    if (plant && !records.some(({ id }) => id === plant.id)) {
      const { id, part, from, until } = plant;
      const change = roll(2) ? null : { until: until + roll(9) - 4 };
      records.push({ kind: 'found-plant', id, muted: false, part, from, until, change });
    }
  }
  return { ...edits, foundPlants: roll(8) > 0, records };
}

const bits = ({ rotations, root, curves }: Motion): Int32Array[] =>
  [rotations, root, ...curves.map(({ values }) => values)].map(({ buffer }) => new Int32Array(buffer));

describe('evaluating a take', () => {
  it.each([1, 2, 3, 4])('gives the same to the bit after changes as anew, dice %d', (seed) => {
    const roll = dice(seed * 7919);
    const evaluator = new TakeEvaluator(solved);
    let edits = NO_EDITS;
    for (let round = 0; round < 25; round++) {
      edits = changed(edits, roll, round);
      const [step, anew] = [evaluator.untimed(edits), new TakeEvaluator(solved).untimed(edits)];
      bits(step).forEach((column, i) =>
        expect(Buffer.compare(Buffer.from(column.buffer), Buffer.from(bits(anew)[i].buffer))).toBe(0),
      );
    }
  });

  it('gives some frames alone as they will be', () => {
    const roll = dice(5);
    const evaluator = new TakeEvaluator(solved);
    let edits = NO_EDITS;
    for (let round = 0; round < 12; round++) {
      edits = changed(edits, roll, round);
      const from = roll(FRAMES);
      const until = Math.min(FRAMES, from + 1 + roll(9));
      const alone = evaluator.framesIn(edits, [from, until]);
      const whole = evaluator.untimed(edits);
      expect([...alone.root]).toEqual([...whole.root.subarray(from * 3, until * 3)]);
      for (let joint = 0; joint < motion.skeleton.joints.length; joint++)
        for (let frame = from; frame < until; frame++) {
          const a = readRotation(alone, joint, frame - from, quat.create());
          const b = readRotation(whole, joint, frame, quat.create());
          // One and the same turn; its sign is told by the frames before.
          expect(Math.abs(quat.dot(a, b))).toBeCloseTo(1, 5);
        }
    }
  });

  it('is what the passes make one after the other', () => {
    const edits = TakeEdits.parse({
      version: 2,
      foundPlants: false,
      records: [
        { kind: 'pass', id: 'a', pass: 'smooth', range: [20, 60] },
        { kind: 'pass', id: 'b', pass: 'hip-height', options: { lift: 4 }, strength: 0.5 },
      ],
    });
    const passes = runPasses(motion, recordsOf(edits.records, 'pass'), { bridged });
    expect(bits(new TakeEvaluator(solved).untimed(edits))).toEqual(bits(passes));
  });

  it('runs only the frames that a change may reach', () => {
    const evaluator = new TakeEvaluator({ ...solved, contacts: null });
    const lift = (cm: number): TakeEdits =>
      TakeEdits.parse({
        version: 2,
        records: [
          { kind: 'pass', id: 'a', pass: 'smooth' },
          { kind: 'pass', id: 'b', pass: 'hip-height', options: { lift: cm }, range: [50, 60], ease: 2 },
          { kind: 'pass', id: 'c', pass: 'smooth' },
        ],
      });
    const first = copyMotion(evaluator.untimed(lift(2)));
    const before = evaluator.untimed(lift(2));
    const after = evaluator.untimed(lift(5));
    expect(evaluator.framesRun).toBeLessThan(60);
    expect(after.root[55 * 3 + 1] - before.root[55 * 3 + 1]).toBeCloseTo(0.03, 3);
    // What was given out before is left alone.
    expect(bits(before)).toEqual(bits(first));
    expect(evaluator.untimed(lift(5))).toBe(after);
    expect(evaluator.framesRun).toBe(0);
  });

  it('is the motion itself when nothing is laid over it', () => {
    expect(new TakeEvaluator({ ...solved, contacts: null }).untimed(NO_EDITS)).toBe(motion);
  });

  it('changes nothing with a range that was emptied or lies outside', () => {
    const lift = (range: number[]): TakeEdits =>
      TakeEdits.parse({
        version: 2,
        foundPlants: false,
        records: [{ kind: 'pass', id: 'a', pass: 'hip-height', options: { lift: 9 }, range }],
      });
    for (const range of [
      [0, 0],
      [30, 30],
      [-40, -20],
      [400, 500],
    ])
      expect(new TakeEvaluator(solved).untimed(lift(range))).toBe(motion);
  });

  it('comes to the timing last, and tells its length without making it', () => {
    const edits = TakeEdits.parse({
      version: 2,
      foundPlants: false,
      records: [
        { kind: 'timing', id: 't', pass: 'resample', options: { rate: 15 } },
        { kind: 'pass', id: 'h', pass: 'hip-height', options: { lift: 10 } },
      ],
    });
    const out = finishedMotion(solved, edits);
    expect({ frames: out.frames, rate: out.rate }).toEqual(new TakeEvaluator(solved).exportLength(edits));
    expect([out.frames, out.rate]).toEqual([75, 15]);
    expect(out.root[4]).toBeGreaterThan(motion.root[7]);
    expect(out.curves[0].values).toHaveLength(75);
    const slow = (id: string) => ({ kind: 'timing', id, pass: 'retime', options: { speed: 10 } });
    const endless = TakeEdits.parse({ version: 2, records: ['a', 'b', 'c', 'd'].map(slow) });
    expect(() => finishedMotion(solved, endless)).toThrow(ResultTooLongError);
  });
});
