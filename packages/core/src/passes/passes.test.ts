import { quat } from 'gl-matrix';
import { exampleMotion, farthest } from '../../test/example-motion';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import {
  alignSigns,
  copyMotion,
  readRotation,
  restMotion,
  worldPositions,
  writeRotation,
  type Motion,
} from '../motion/motion';
import { differingFrames, sliceMotion } from '../signal/slice-motion';
import { lowestSole } from '../ground/floor';
import { jointIndex } from '../motion/skeleton';
import { findPops } from './find-pops';
import { crossings } from './keep-apart';
import { NO_CONTEXT } from './pass';
import { PASSES, passNamed } from './registry';

const apply = (name: string, motion: Motion, options: object = {}, context = NO_CONTEXT): Motion =>
  passNamed(name).apply(motion, passNamed(name).options.parse(options), context);
const motion = exampleMotion(90);
const joint = (name: string): number => jointIndex(motion.skeleton, name);

/** Turns a joint away in some frames. */
function popped(frames: readonly number[], name = 'leftUpperArm', degrees = 40): Motion {
  const out = copyMotion(motion);
  const turn = quat.create();
  for (const f of frames)
    writeRotation(
      out,
      joint(name),
      f,
      quat.multiply(
        quat.create(),
        readRotation(out, joint(name), f, turn),
        quat.fromEuler(quat.create(), 0, degrees, 0),
      ),
    );
  return out;
}

describe('every pass', () => {
  it.each(PASSES.map((pass) => [pass.name, pass] as const))('%s leaves its input alone and repeats', (_, pass) => {
    const source = popped([20]);
    const copy = [source.rotations.slice(), source.root.slice()];
    const options = pass.options.parse({});
    const [a, b] = [pass.apply(source, options, NO_CONTEXT), pass.apply(source, options, NO_CONTEXT)];
    expect([source.rotations, source.root]).toEqual(copy);
    expect(a.rotations).toEqual(b.rotations);
    expect(a.rotations.every(Number.isFinite) && a.root.every(Number.isFinite)).toBe(true);
  });
});

describe('the reach that a pass tells', () => {
  const near = PASSES.filter(({ reach }) => reach);
  /** Long enough for the widest of them. */
  const long = exampleMotion(360);
  const AT = 180;

  it.each(near.map((pass) => [pass.name, pass] as const))(
    '%s: all that a changed frame changes lies within it',
    (_, pass) => {
      // One frame is another one in all joints and in the path: there a forearm is in the trunk, elsewhere the arm is held out.
      const base = copyMotion(long);
      const arm = ['leftUpperArm', 'leftLowerArm'].map(joint);
      for (let f = 0; f < base.frames; f++) for (const j of arm) writeRotation(base, j, f, quat.create());
      const other = copyMotion(base);
      for (let j = 0; j < other.skeleton.joints.length; j++)
        writeRotation(other, j, AT, readRotation(base, j, AT - 30, quat.create()));
      for (const j of arm) writeRotation(other, j, AT, quat.fromEuler(quat.create(), 0, 0, -75));
      other.root[AT * 3] += 0.3;
      other.root[AT * 3 + 1] -= 0.4;
      alignSigns(other);
      const options = pass.options.parse({});
      const reach = pass.reach?.(options, long.rate) ?? NaN;
      const found = differingFrames(pass.apply(base, options, NO_CONTEXT), pass.apply(other, options, NO_CONTEXT));
      const [from, until] = found as [number, number];
      // Of q and −q frames after the change may take the other one.
      expect(from).toBeGreaterThanOrEqual(AT - reach);
      expect(from).toBeLessThanOrEqual(AT);
      // A part of the motion with so much around it gives the same.
      const [first, end] = [AT - reach, AT + 1 + reach];
      const part = pass.apply(sliceMotion(other, first - reach, end + reach), options, NO_CONTEXT);
      const whole = sliceMotion(pass.apply(other, options, NO_CONTEXT), first, end);
      const inner = sliceMotion(part, reach, reach + end - first);
      expect([...inner.root]).toEqual([...whole.root]);
      inner.rotations.forEach((value, i) => expect(Math.abs(value)).toBe(Math.abs(whole.rotations[i])));
      expect(until).toBeGreaterThan(AT);
      if (reach > 0) expect(from).toBeLessThan(AT);
    },
  );
});

describe('larger or smaller', () => {
  /** How widely a joint swings: the largest turn between two of its frames. */
  const swing = (m: Motion, name: string): number => {
    let most = 0;
    for (let f = 20; f < 70; f++)
      most = Math.max(
        most,
        quat.getAngle(
          readRotation(m, joint(name), f, quat.create()),
          readRotation(m, joint(name), f - 10, quat.create()),
        ),
      );
    return most;
  };
  const with_ = (times: number): Motion => passNamed('exaggerate').apply(motion, { times, around: 0.8 }, NO_CONTEXT);

  it('turns joints further, or less far, and leaves the path', () => {
    const before = swing(motion, 'leftUpperArm');
    expect(swing(with_(1.3), 'leftUpperArm')).toBeGreaterThan(before * 1.15);
    expect(swing(with_(0.5), 'leftUpperArm')).toBeLessThan(before * 0.75);
    expect([...with_(1.3).root]).toEqual([...motion.root]);
    expect(with_(1)).toBe(motion);
  });
});

describe('out of the floor', () => {
  it('lifts feet that sink, just so far, and lets the others go', () => {
    const sunk = restMotion(humanoidSkeleton(averageProportions(1.7)), 60, 30);
    for (let f = 0; f < 60; f++) sunk.root[f * 3 + 1] -= f >= 20 && f < 40 ? 0.05 : 0;
    // The right leg is drawn up meanwhile.
    for (let f = 0; f < 60; f++) {
      writeRotation(sunk, joint('rightUpperLeg'), f, quat.fromEuler(quat.create(), -70, 0, 0));
      writeRotation(sunk, joint('rightLowerLeg'), f, quat.fromEuler(quat.create(), 80, 0, 0));
    }
    const out = passNamed('clear-floor').apply(sunk, { ease: 0.08 }, NO_CONTEXT);
    expect(Math.min(...lowestSole(sunk))).toBeLessThan(-0.04);
    expect(Math.min(...lowestSole(out))).toBeGreaterThan(-0.002);
    const column = (m: Motion, name: string): Float32Array =>
      m.rotations.subarray(joint(name) * 240, joint(name) * 240 + 240);
    expect([...column(out, 'rightLowerLeg')]).toEqual([...column(sunk, 'rightLowerLeg')]);
    expect([...column(out, 'leftLowerLeg').subarray(0, 40)]).toEqual([...column(sunk, 'leftLowerLeg').subarray(0, 40)]);
    expect([...out.root]).toEqual([...sunk.root]);
  });
});

describe('taking out pops', () => {
  it('brings a joint back to its way, and touches nothing else', () => {
    const mended = apply('remove-pops', popped([30]));
    const column = (m: Motion, name: string): Float32Array =>
      m.rotations.subarray(joint(name) * 360, joint(name) * 360 + 360);
    expect(farthest(worldPositions(mended), worldPositions(motion))).toBeLessThan(0.02);
    for (const name of ['leftLowerArm', 'rightUpperArm', 'spine'])
      expect(column(mended, name)).toEqual(column(motion, name));
    for (let f = 0; f < 90; f++)
      if (f !== 30)
        expect(column(mended, 'leftUpperArm').subarray(f * 4, f * 4 + 4)).toEqual(
          column(motion, 'leftUpperArm').subarray(f * 4, f * 4 + 4),
        );
  });

  it('finds pops of two frames and of the hips, but no gesture that goes on', () => {
    const limits = { angle: 0.14, way: 0.04, frames: 2 };
    expect(findPops(motion, limits)).toEqual([]);
    expect(findPops(popped([40, 41]), limits)).toMatchObject([{ joint: joint('leftUpperArm'), from: 40, until: 42 }]);
    const jumped = copyMotion(motion);
    jumped.root[50 * 3 + 1] += 0.2;
    expect(findPops(jumped, limits)).toMatchObject([{ joint: -1, from: 50, until: 51, size: expect.closeTo(0.2, 1) }]);
    expect(findPops(popped([60, 61, 62, 63, 64, 65, 66, 67, 68, 69]), limits)).toEqual([]);
  });
});

describe('filling gaps', () => {
  it('runs on through the gap with the speed around it', () => {
    const holed = copyMotion(motion);
    const bridged = new Uint8Array(90);
    for (let f = 40; f < 52; f++) {
      bridged[f] = 1;
      for (let k = 0; k < 3; k++)
        holed.root[f * 3 + k] =
          motion.root[39 * 3 + k] + ((motion.root[52 * 3 + k] - motion.root[39 * 3 + k]) * (f - 39)) / 13;
    }
    const filled = apply('fill-gaps', holed, {}, { bridged });
    const off = (m: Motion): number => Math.abs(m.root[45 * 3] - motion.root[45 * 3]);
    expect(off(filled)).toBeLessThan(off(holed));
    expect(filled.root.subarray(0, 40 * 3)).toEqual(motion.root.subarray(0, 40 * 3));
    expect(apply('fill-gaps', holed, { longest: 0.2 }, { bridged })).toBe(holed);
  });
});

describe('hips', () => {
  it('are lifted', () => {
    expect(apply('hip-height', motion, { lift: 12 }).root[4]).toBeCloseTo(motion.root[4] + 0.12, 5);
  });

  it('stay in place when that is wanted, and keep their swing', () => {
    const walk = restMotion(motion.skeleton, 150, 30);
    for (let f = 0; f < 150; f++) {
      walk.root[f * 3 + 2] += f * 0.03;
      walk.root[f * 3] += 0.02 * Math.sin(f / 2);
      walk.root[f * 3 + 1] += 0.1 * Math.sin(f / 60);
    }
    const spot = apply('root-drift', walk, { path: 'spot' });
    const z = Array.from({ length: 150 }, (_, f) => spot.root[f * 3 + 2]);
    // Of 4.5 m what the ends, where nobody knows how it goes on, leave.
    expect(Math.max(...z) - Math.min(...z)).toBeLessThan(0.2);
    const middle = z.slice(30, 120);
    expect(Math.max(...middle) - Math.min(...middle)).toBeLessThan(0.02);
    const swing = Array.from({ length: 60 }, (_, f) => spot.root[(f + 40) * 3]);
    expect(Math.max(...swing) - Math.min(...swing)).toBeGreaterThan(0.035);
    const y = Array.from({ length: 90 }, (_, f) => spot.root[(f + 30) * 3 + 1]);
    expect(Math.max(...y) - Math.min(...y)).toBeLessThan(0.05);
    const straight = apply('root-drift', walk, { path: 'straighten', rising: false });
    expect(straight.root[149 * 3 + 2]).toBeCloseTo(straight.root[2], 4);
    expect(apply('root-drift', walk, { path: 'keep', rising: false }).root).toEqual(walk.root);
  });
});

describe('swapping sides', () => {
  it.each(['legs', 'arms', 'both'])('makes each limb point where the other did: %s', (limbs) => {
    const swapped = apply('swap-sides', motion, { limbs });
    const [a, b] = [worldPositions(motion), worldPositions(swapped)];
    const bone = (all: Float64Array, f: number, from: string, to: string): number[] =>
      [0, 1, 2].map(
        (k) =>
          all[(f * motion.skeleton.joints.length + joint(to)) * 3 + k] -
          all[(f * motion.skeleton.joints.length + joint(from)) * 3 + k],
      );
    const pairs = [
      ...(limbs === 'arms'
        ? []
        : [
            ['UpperLeg', 'LowerLeg'],
            ['LowerLeg', 'Foot'],
          ]),
      ...(limbs === 'legs'
        ? []
        : [
            ['UpperArm', 'LowerArm'],
            ['LowerArm', 'Hand'],
          ]),
    ];
    for (const f of [0, 33, 71])
      for (const [from, to] of pairs)
        for (const [mine, yours] of [
          ['left', 'right'],
          ['right', 'left'],
        ])
          bone(b, f, mine + from, mine + to).forEach((value, k) =>
            expect(value).toBeCloseTo(bone(a, f, yours + from, yours + to)[k], 4),
          );
    expect(farthest(worldPositions(apply('swap-sides', swapped, { limbs })), a)).toBeLessThan(1e-5);
  });
});

describe('keeping arms out of the body', () => {
  it('brings a forearm out of the trunk and leaves free ones alone', () => {
    const standing = restMotion(humanoidSkeleton(averageProportions(1.75)), 40, 30);
    const turn = (name: string, f: number, x: number, y: number, z: number): void =>
      writeRotation(standing, jointIndex(standing.skeleton, name), f, quat.fromEuler(quat.create(), x, y, z));
    for (let f = 0; f < 40; f++) {
      turn('leftUpperArm', f, 0, 0, -75);
      turn('leftLowerArm', f, 0, 0, -75);
    }
    const deep = (m: Motion): number =>
      Math.max(...Array.from({ length: 40 }, (_, f) => crossings(m, 0.12).left[f * 4 + 3]));
    expect(deep(standing)).toBeGreaterThan(0.05);
    const apart = apply('keep-apart', standing);
    expect(deep(apart)).toBeLessThan(deep(standing) / 3);
    const right = jointIndex(standing.skeleton, 'rightUpperArm') * 160;
    expect(apart.rotations.subarray(right, right + 160)).toEqual(standing.rotations.subarray(right, right + 160));
  });
});

describe('timing', () => {
  it('cuts off the ends', () => {
    const cut = apply('trim', motion, { start: 1, end: 0.5 });
    expect([cut.frames, cut.rate]).toEqual([45, 30]);
    expect(cut.root.subarray(0, 3)).toEqual(motion.root.subarray(90, 93));
    expect(apply('trim', motion, { start: 500 }).frames).toBe(1);
  });

  it('plays faster or slower, and at another rate, along the same way', () => {
    const half = apply('retime', motion, { speed: 50 });
    expect(half.frames).toBe(179);
    expect(half.root[20 * 3]).toBeCloseTo(motion.root[10 * 3], 5);
    const film = apply('resample', motion, { rate: 24 });
    expect([film.frames, film.rate]).toEqual([72, 24]);
    expect(film.root[24 * 3]).toBeCloseTo(motion.root[30 * 3], 5);
    expect(
      farthest(
        worldPositions(apply('resample', apply('resample', motion, { rate: 60 }), { rate: 30 })),
        worldPositions(motion),
      ),
    ).toBeLessThan(1e-4);
  });
});

describe('smoothing', () => {
  it('leaves a fast gesture nearly its peak speed, and takes shake out of a still arm', () => {
    const beat = restMotion(motion.skeleton, 90, 30);
    const arm = joint('rightUpperArm');
    for (let f = 0; f < 90; f++) {
      const strike = 60 * Math.exp(-(((f - 60) / 4) ** 2));
      const shake = f < 40 ? (f % 2 ? 1 : -1) : 0;
      writeRotation(beat, arm, f, quat.fromEuler(quat.create(), 0, 0, strike + shake));
    }
    const soft = apply('smooth', beat);
    const angle = (m: Motion, f: number): number =>
      2 * Math.atan2(m.rotations[(arm * 90 + f) * 4 + 2], m.rotations[(arm * 90 + f) * 4 + 3]);
    const peak = (m: Motion): number =>
      Math.max(...Array.from({ length: 30 }, (_, i) => Math.abs(angle(m, 46 + i) - angle(m, 45 + i))));
    expect(peak(soft) / peak(beat)).toBeGreaterThan(0.95);
    expect(peak(apply('smooth', beat, { gestures: false })) / peak(beat)).toBeLessThan(0.95);
    const shaking = (m: Motion): number =>
      Math.max(...Array.from({ length: 20 }, (_, i) => Math.abs(angle(m, i + 11) - angle(m, i + 10))));
    expect(shaking(soft)).toBeLessThan(shaking(beat) / 3);
  });
});
