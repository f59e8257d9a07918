import { quat } from 'gl-matrix';
import { exampleMotion } from '../../test/example-motion';
import { copyMotion, readRotation, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { sliceMotion } from '../signal/slice-motion';
import { applyLayer } from './apply-layer';
import { courseAt, courseThrough } from './key-course';
import { keyAsShown, keyNothing, keyPose } from './key-pose';
import { dropKey, Layer, moveKey, putKey } from './layer';
import { mergeLayers } from './merge-layers';

const motion = exampleMotion(80);
const layer = (fields: object): Layer => Layer.parse({ name: 'arm', ...fields });
const LIFTED: [number, number, number, number] = [0, 0, Math.sin(0.2), Math.cos(0.2)];
const arm = jointIndex(motion.skeleton, 'leftUpperArm');

/** Angle between a joint's turns of two motions in a frame, radians. */
function apart(a: Motion, b: Motion, joint: number, frame: number): number {
  const [one, two] = [a, b].map((m) => readRotation(m, joint, frame, quat.create()));
  const between = quat.multiply(one, quat.conjugate(one, one), two);
  return 2 * Math.atan2(Math.hypot(between[0], between[1], between[2]), Math.abs(between[3]));
}

/** A frame of a motion with one joint turned further. */
function posed(frame: Motion, joint: string, turn: quat): Motion {
  const out = copyMotion(frame);
  const index = jointIndex(frame.skeleton, joint);
  const now = readRotation(frame, index, 0, quat.create());
  writeRotation(out, index, 0, quat.multiply(now, turn, now));
  return out;
}

describe('a layer', () => {
  it('comes in, holds between its keys, goes out, and leaves all else alone', () => {
    const keys = [30, 40].map((frame) => ({ frame, turns: { leftUpperArm: LIFTED } }));
    const out = applyLayer(motion, layer({ keys, ease: 8 }));
    expect(apart(motion, out, arm, 21)).toBeLessThan(1e-6);
    expect(apart(motion, out, arm, 26)).toBeGreaterThan(0.05);
    for (const frame of [30, 35, 40]) expect(apart(motion, out, arm, frame)).toBeCloseTo(0.4, 5);
    expect(apart(motion, out, arm, 44)).toBeLessThan(0.35);
    expect(apart(motion, out, arm, 49)).toBeLessThan(1e-6);
    expect([...out.root]).toEqual([...motion.root]);
    const other = jointIndex(motion.skeleton, 'rightUpperArm');
    for (let frame = 0; frame < 80; frame++) expect(apart(motion, out, other, frame)).toBeLessThan(1e-6);
  });

  it('holds to the ends of the take where that is wanted', () => {
    const out = applyLayer(motion, layer({ keys: [{ frame: 30, turns: { leftUpperArm: LIFTED } }], hold: true }));
    for (const frame of [0, 79]) expect(apart(motion, out, arm, frame)).toBeCloseTo(0.4, 5);
  });

  it('counts as much as its strength, and not on parts that it is not meant for', () => {
    const keys = [{ frame: 30, turns: { leftUpperArm: LIFTED }, root: [0.1, 0, 0] }];
    const half = applyLayer(motion, layer({ keys, strength: 0.5 }));
    expect(apart(motion, half, arm, 30)).toBeCloseTo(0.2, 5);
    expect(half.root[90] - motion.root[90]).toBeCloseTo(0.05, 5);
    const legs = applyLayer(motion, layer({ keys, parts: ['leftLeg', 'root'] }));
    expect(apart(motion, legs, arm, 30)).toBeLessThan(1e-6);
    expect(legs.root[90] - motion.root[90]).toBeCloseTo(0.1, 5);
  });

  it('stands in the place of the motion where it overrides', () => {
    const keys = [20, 50].map((frame) => ({ frame, turns: { leftUpperArm: LIFTED } }));
    const out = applyLayer(motion, layer({ keys, mode: 'override' }));
    for (const frame of [20, 33, 50])
      expect(quat.equals(readRotation(out, arm, frame, quat.create()), LIFTED)).toBe(true);
  });

  it('does the same to a part of a take as to the whole', () => {
    const keys = [{ frame: 30, turns: { leftUpperArm: LIFTED }, root: [0, 0.1, 0] }];
    const whole = sliceMotion(applyLayer(motion, layer({ keys })), 25, 45);
    const part = applyLayer(sliceMotion(motion, 25, 45), layer({ keys }), 25);
    expect([...part.rotations]).toEqual([...whole.rotations]);
    expect([...part.root]).toEqual([...whole.root]);
  });
});

describe('keying a pose', () => {
  const turn = quat.setAxisAngle(quat.create(), [0.6, 0, 0.8], 0.5);
  it.each([
    ['an offset', {}],
    ['a weaker offset', { strength: 0.6 }],
    ['one that overrides', { mode: 'override' }],
    ['one with a key before', { keys: [{ frame: 10, turns: { leftUpperArm: LIFTED, hips: LIFTED } }], ease: 30 }],
  ])('brings a frame to stand as it was posed: %s', (_, fields) => {
    const before = layer(fields);
    const shown = sliceMotion(applyLayer(motion, before), 20, 21);
    const wanted = posed(posed(shown, 'leftUpperArm', turn), 'hips', turn);
    wanted.root[1] += 0.07;
    const keyed = keyPose(before, shown, wanted, 20);
    const out = sliceMotion(applyLayer(motion, keyed), 20, 21);
    for (let joint = 0; joint < motion.skeleton.joints.length; joint++)
      expect(apart(out, wanted, joint, 0)).toBeLessThan(2e-3);
    expect(out.root[1]).toBeCloseTo(wanted.root[1], 5);
    expect(Object.keys(keyed.keys.at(-1)!.turns).sort()).toEqual(['hips', 'leftUpperArm']);
  });

  it.each(['offset', 'override'])('keeps what is shown when it is keyed there: %s', (mode) => {
    const keys = [{ frame: 20, turns: { leftUpperArm: LIFTED }, root: [0, 1, 0] }];
    const before = layer({ keys, mode, ease: 20 });
    const shown = applyLayer(motion, before);
    const kept = keyAsShown(before, shown, 28);
    const out = applyLayer(motion, kept);
    expect(kept.keys).toHaveLength(2);
    expect(apart(shown, out, arm, 28)).toBeLessThan(1e-3);
    expect(out.root[28 * 3 + 1]).toBeCloseTo(shown.root[28 * 3 + 1], 2);
  });

  it('lets go at a frame', () => {
    const held = layer({ keys: [{ frame: 20, turns: { leftUpperArm: LIFTED }, root: [0, 1, 0] }], hold: true });
    const out = applyLayer(motion, keyNothing(held, 30));
    expect(apart(motion, out, arm, 20)).toBeCloseTo(0.4, 5);
    for (const frame of [30, 60]) {
      expect(apart(motion, out, arm, frame)).toBeLessThan(1e-6);
      expect(out.root[frame * 3 + 1]).toBeCloseTo(motion.root[frame * 3 + 1], 6);
    }
  });

  it('makes no key where nothing was moved, and refuses a layer without strength', () => {
    const frame = sliceMotion(motion, 20, 21);
    const empty = layer({});
    expect(keyPose(empty, frame, copyMotion(frame), 20)).toBe(empty);
    expect(() => keyPose(layer({ strength: 0 }), frame, frame, 20)).toThrow('has no strength');
  });

  it('keeps its keys in order: a document with others is refused', () => {
    const keys = (...frames: number[]): object => ({ keys: frames.map((frame) => ({ frame })) });
    expect(layer(keys(3, 8)).keys).toHaveLength(2);
    expect(() => layer(keys(8, 3))).toThrow('in the order of their frames');
    expect(() => layer(keys(8, 8))).toThrow('one for a frame');
  });

  it('puts keys of one frame together, moves and drops them', () => {
    const first = { frame: 5, turns: { hips: LIFTED }, root: null };
    const keys = putKey(putKey([], first), { frame: 5, turns: { head: LIFTED }, root: [1, 2, 3] });
    expect(keys).toEqual([{ frame: 5, turns: { hips: LIFTED, head: LIFTED }, root: [1, 2, 3] }]);
    const more = putKey(keys, { ...first, frame: 2 });
    expect(more.map(({ frame }) => frame)).toEqual([2, 5]);
    expect(moveKey(more, 2, 9).map(({ frame }) => frame)).toEqual([5, 9]);
    expect(moveKey(more, 2, 5)).toEqual([{ ...first, frame: 5 }]);
    expect(dropKey(more, 5).map(({ frame }) => frame)).toEqual([2]);
  });
});

describe('the course through keys', () => {
  it('meets the keys, never goes beyond its neighbours, and stands still at both ends', () => {
    const frames = [0, 10, 14, 30, 60];
    const values = [0, 1, 1.2, -2, 5].map((value) => [value]);
    const course = courseThrough(frames, values);
    const at = (frame: number): number => {
      const row: number[] = [];
      courseAt(course, frame, row);
      return row[0];
    };
    frames.forEach((frame, i) => expect(at(frame)).toBeCloseTo(values[i][0], 12));
    for (let frame = 0; frame < 60; frame += 0.5) {
      const i = frames.findLastIndex((one) => one <= frame);
      const [low, high] = [values[i][0], values[i + 1][0]].sort((a, b) => a - b);
      expect(at(frame)).toBeGreaterThanOrEqual(low - 1e-12);
      expect(at(frame)).toBeLessThanOrEqual(high + 1e-12);
    }
    expect(Math.abs(at(0.1) - at(0))).toBeLessThan(0.002);
    expect([at(-5), at(99)]).toEqual([0, 5]);
  });
});

describe('two layers that are merged', () => {
  const lift = layer({
    strength: 0.6,
    ease: 6,
    keys: [20, 40].map((frame) => ({ frame, turns: { leftUpperArm: LIFTED, hips: LIFTED }, root: [0.1, 0, 0] })),
  });
  const sway = layer({
    ease: 4,
    parts: ['leftArm', 'trunk', 'root'],
    keys: [
      { frame: 34, turns: { leftUpperArm: [Math.sin(0.15), 0, 0, Math.cos(0.15)], leftUpperLeg: LIFTED } },
      { frame: 50, turns: { hips: [0, Math.sin(0.1), 0, Math.cos(0.1)] }, root: [0, 0.05, 0] },
    ],
  });

  it('do what both did, to the bit of a degree and a few millimetres', () => {
    const both = applyLayer(applyLayer(motion, lift), sway);
    const one = applyLayer(motion, mergeLayers(lift, sway, [0, 80]));
    for (const name of ['leftUpperArm', 'hips', 'leftUpperLeg'])
      for (let frame = 0; frame < 80; frame++)
        expect(apart(both, one, jointIndex(motion.skeleton, name), frame)).toBeLessThan(0.03);
    for (const frame of [20, 34, 40, 50, 70]) expect(apart(both, one, arm, frame)).toBeLessThan(1e-5);
    both.root.forEach((value, i) => expect(Math.abs(value - one.root[i])).toBeLessThan(0.006));
  });

  it('are keyed within the clip alone', () => {
    const early = layer({ ease: 10, keys: [{ frame: 3, turns: { leftUpperArm: LIFTED } }] });
    const { keys } = mergeLayers(early, sway, [0, 80]);
    expect(keys[0].frame).toBe(0);
    expect(keys.every(({ frame }) => frame >= 0 && frame < 80)).toBe(true);
  });

  it('are left apart where one stands in the place of the capture', () => {
    expect(() => mergeLayers(lift, layer({ mode: 'override' }), [0, 80])).toThrow('Only layers that move');
  });
});
