import { quat } from 'gl-matrix';
import { exampleMotion } from '../../test/example-motion';
import { AXES } from '../motion/euler';
import { readRotation, worldPositions, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { applyCurves, TargetCurves } from './apply-curves';
import { axesOfTurn, orderOf, turnFromAxes } from './axis-turns';
import { readChannels } from './channels';
import { CurveCourse, CurveKey } from './curve';
import { thinKeys } from './thin-keys';

const motion = exampleMotion(80);
const DEGREES = 180 / Math.PI;
/** Angle between a joint's turns of two motions in a frame, degrees. */
function apart(a: Motion, b: Motion, joint: string, frame: number): number {
  const index = jointIndex(a.skeleton, joint);
  const [one, two] = [a, b].map((m) => readRotation(m, index, frame, quat.create()));
  return 2 * Math.acos(Math.min(1, Math.abs(quat.dot(one, two)))) * DEGREES;
}
const curves = (fields: object): TargetCurves => TargetCurves.parse(fields);
const keys = (list: readonly (readonly [number, number])[], shape = 'smooth'): CurveKey[] =>
  list.map(([frame, value]) => CurveKey.parse({ frame, value, shape }));

describe('turns about axes', () => {
  it.each(['leftUpperArm', 'rightUpperLeg', 'hips'])(
    'of the %s make the same turn again, whichever way they are told',
    (joint) => {
      const order = orderOf(joint);
      for (let n = 0; n < 200; n++) {
        const turns = [0, 1, 2].map((k) => 170 * Math.sin(n * (1.3 + k) + k));
        const turn = turnFromAxes(turns, order);
        const told = axesOfTurn(turn, order, turns);
        told.forEach((angle, k) => expect(angle).toBeCloseTo(turns[k], 3));
        const plain = axesOfTurn(turn, order, [NaN, NaN, NaN]);
        expect(Math.abs(plain[AXES[order[1]]])).toBeLessThanOrEqual(90.001);
        expect(Math.abs(quat.dot(turnFromAxes(plain, order), turn))).toBeCloseTo(1, 6);
      }
    },
  );

  it('are what their names say', () => {
    const bent = quat.setAxisAngle(quat.create(), [1, 0, 0], 2);
    expect(axesOfTurn(bent, orderOf('leftLowerLeg'), [0, 0, 0])[0]).toBeCloseTo(2 * DEGREES, 3);
    const raised = quat.setAxisAngle(quat.create(), [0, 0, 1], 1);
    expect(axesOfTurn(raised, orderOf('leftUpperArm'), [0, 0, 0]).map(Math.round)).toEqual([0, 0, 57]);
  });

  it('run on without jumps over a whole motion', () => {
    for (const { name } of motion.skeleton.joints)
      readChannels(motion, name)?.forEach((row) => {
        for (let f = 1; f < row.length; f++) expect(Math.abs(row[f] - row[f - 1])).toBeLessThan(60);
      });
  });
});

describe('a curve', () => {
  it('goes through its keys, beyond none of them, and holds beside them', () => {
    const course = new CurveCourse(
      keys([
        [10, 0],
        [20, 8],
        [24, 8],
        [40, -3],
      ]),
    );
    expect([0, 10, 20, 24, 40, 60].map((frame) => course.at(frame))).toEqual([0, 0, 8, 8, -3, -3]);
    for (let frame = 10; frame <= 40; frame += 0.25) {
      expect(course.at(frame)).toBeLessThanOrEqual(8 + 1e-9);
      expect(course.at(frame)).toBeGreaterThanOrEqual(-3 - 1e-9);
    }
    expect(course.at(22)).toBeCloseTo(8, 9);
  });

  it('is straight or stepped where it is asked to be', () => {
    expect(
      new CurveCourse(
        keys(
          [
            [0, 0],
            [10, 5],
          ],
          'straight',
        ),
      ).at(4),
    ).toBeCloseTo(2, 9);
    expect(
      new CurveCourse(
        keys(
          [
            [0, 1],
            [10, 5],
          ],
          'step',
        ),
      ).at(9),
    ).toBe(1);
  });

  it('follows handles of its own, broken and of any length, without going back in time', () => {
    const free = [
      CurveKey.parse({ frame: 0, value: 0, shape: 'free', after: [30, 6] }),
      CurveKey.parse({ frame: 10, value: 0, shape: 'free', before: [5, 0], after: [1, -1] }),
      CurveKey.parse({ frame: 20, value: 0 }),
    ];
    const course = new CurveCourse(free);
    expect(course.at(4)).toBeGreaterThan(0.2);
    expect(course.at(12)).toBeLessThan(0);
    expect(
      new CurveCourse(
        keys([
          [0, 0],
          [10, 0],
        ]),
      ).at(5),
    ).toBe(0);
  });
});

describe('curves laid over a motion', () => {
  it('put one axis in the place of what was there, from the first key to the last, and leave all else alone', () => {
    const out = applyCurves(
      motion,
      curves({
        target: 'leftUpperArm',
        ease: 5,
        channels: [
          [],
          [],
          keys([
            [30, 20],
            [50, 40],
          ]),
        ],
      }),
    );
    const [before, after] = [motion, out].map((m) => readChannels(m, 'leftUpperArm') as Float64Array[]);
    expect(after[2][30]).toBeCloseTo(20, 3);
    expect(after[2][50]).toBeCloseTo(40, 3);
    for (const k of [0, 1]) expect(after[k][40]).toBeCloseTo(before[k][40], 3);
    for (const frame of [0, 24, 56, 79]) expect(apart(motion, out, 'leftUpperArm', frame)).toBeLessThan(0.05);
    for (const { name } of motion.skeleton.joints)
      if (name !== 'leftUpperArm') expect(apart(motion, out, name, 40)).toBeLessThan(0.1);
  });

  it('move the root in centimetres, with strength, and count from the take', () => {
    const moved = curves({ target: 'root', ease: 0, strength: 0.5, channels: [keys([[45, 100]]), [], []] });
    const out = applyCurves(motion, moved, 40);
    expect(out.root[15]).toBeCloseTo((motion.root[15] + 1) / 2, 5);
    expect(out.root[18]).toBe(motion.root[18]);
    expect(applyCurves(motion, curves({ target: 'tail', channels: [keys([[3, 1]])] }))).toBe(motion);
  });

  it('change a curve of the face', () => {
    const face = { ...motion, curves: [{ name: 'face.jawOpen', values: new Float32Array(80).fill(0.2) }] };
    const out = applyCurves(
      face,
      curves({
        target: 'face.jawOpen',
        ease: 0,
        channels: [
          keys([
            [10, 0.2],
            [20, 0.9],
          ]),
        ],
      }),
    );
    expect(out.curves[0].values[20]).toBeCloseTo(0.9, 6);
    expect(out.curves[0].values[30]).toBeCloseTo(0.2, 6);
    expect(face.curves[0].values[20]).toBeCloseTo(0.2, 6);
  });
});

describe('thinning', () => {
  it.each([0.5, 2, 6])('stays within %d degrees with fewer keys than frames', (degrees) => {
    let count = 0;
    for (const { name } of motion.skeleton.joints) {
      const thin = thinKeys(motion, name, [0, 80], { degrees, centimetres: 100 });
      if (!thin) throw new Error(name);
      const out = applyCurves(motion, curves({ target: name, ease: 0, channels: thin.channels }));
      let most = 0;
      for (let f = 0; f < 80; f++) most = Math.max(most, apart(motion, out, name, f));
      expect(most).toBeLessThanOrEqual(degrees + 0.06);
      expect(thin.worst.off).toBeLessThanOrEqual(degrees);
      expect(Math.abs(thin.worst.off - most)).toBeLessThan(0.06);
      count += thin.channels[0].length;
    }
    expect(count).toBeLessThan(80 * motion.skeleton.joints.length * (degrees < 1 ? 0.8 : 0.45));
  });

  it('keeps the places of what hangs on a joint', () => {
    const thin = thinKeys(motion, 'leftUpperArm', [0, 80], { degrees: 90, centimetres: 1 });
    const out = applyCurves(motion, curves({ target: 'leftUpperArm', ease: 0, channels: thin?.channels }));
    const [before, after] = [motion, out].map(worldPositions);
    const most = before.reduce((far, value, i) => Math.max(far, Math.abs(value - after[i])), 0);
    expect(most).toBeLessThan(0.0102);
    expect(most).toBeGreaterThan(0.002);
    expect(thin?.worst.centimetres).toBeLessThanOrEqual(1);
  });

  it('needs two keys for what goes evenly, and none for what is not there', () => {
    const even = {
      ...motion,
      root: Float32Array.from({ length: 240 }, (_, i) => (i % 3) * 0.1 + Math.floor(i / 3) * 0.01),
    };
    expect(thinKeys(even, 'root', [0, 80], { degrees: 1, centimetres: 0.5 })?.channels[1]).toHaveLength(2);
    expect(thinKeys(motion, 'tail', [0, 80], { degrees: 1, centimetres: 1 })).toBeNull();
  });
});
