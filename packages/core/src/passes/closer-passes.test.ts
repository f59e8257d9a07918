import { shapeAt } from './shape-hand';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { restMotion, writeRotation, readRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { GAZE_CURVES, lookShapes } from '../face/gaze';
import { shapeCurve } from '../face/face-shapes';
import { handTurns } from '../hands/finger-turns';
import { handShape } from '../hands/hand-shapes';
import { findSnags } from '../snags/registry';
import type { Snag, SnagKind } from '../snags/snag';
import { PassStep, runPass } from './run-passes';
import { NO_CONTEXT } from './pass';

/** Passes for fingers and face, and the snags that they mend: each fault is planted into a motion without one. */
const FRAMES = 120;
const RATE = 30;
const skeleton = humanoidSkeleton(averageProportions(1.75), true);

function example(curves: Record<string, (frame: number) => number> = {}): Motion {
  const motion = restMotion(skeleton, FRAMES, RATE);
  const gaze = Object.fromEntries(
    Object.values(GAZE_CURVES).map((name) => [
      name,
      Float32Array.from({ length: FRAMES }, (_, f) => curves[name]?.(f) ?? 0),
    ]),
  );
  const looks = lookShapes(gaze[GAZE_CURVES.across], gaze[GAZE_CURVES.up]);
  const own = Object.entries(curves)
    .filter(([name]) => name.startsWith('face.'))
    .map(([name, at]) => ({ name, values: Float32Array.from({ length: FRAMES }, (_, frame) => at(frame)) }));
  return {
    ...motion,
    curves: [
      ...own,
      ...looks.map(([shape, values]) => ({ name: shapeCurve(shape), values })),
      ...Object.entries(gaze).map(([name, values]) => ({ name, values })),
    ],
  };
}

const run = (motion: Motion, pass: string, options: object = {}, step: Partial<PassStep> = {}): Motion =>
  runPass(motion, PassStep.parse({ pass, options, ...step }), NO_CONTEXT);
const curve = (motion: Motion, name: string): Float32Array =>
  motion.curves.find((one) => one.name === name)?.values ?? new Float32Array();
const snags = (motion: Motion, kind: SnagKind, unseen = {}): Snag[] =>
  findSnags({ motion, plants: [], bridged: null, unseen }).filter((snag) => snag.kind === kind);
const mended = (motion: Motion, snag: Snag): Motion => {
  const [mending] = snag.mends;
  if (!mending || !('pass' in mending)) throw new Error('There is no pass that mends this.');
  return runPass(motion, mending.pass, NO_CONTEXT);
};

describe('strength of the face', () => {
  const motion = example({
    'face.browInnerUp': () => 0.4,
    'face.mouthSmileLeft': () => 0.4,
    'face.mouthSmileRight': () => 0.9,
  });

  it('times a group and a side, from 0 to 1', () => {
    const more = run(motion, 'face-strength', { group: 'mouth', gain: 2 });
    expect(curve(more, 'face.mouthSmileLeft')[10]).toBeCloseTo(0.8, 6);
    expect(curve(more, 'face.mouthSmileRight')[10]).toBe(1);
    expect(curve(more, 'face.browInnerUp')[10]).toBeCloseTo(0.4, 6);
    const left = run(motion, 'face-strength', { side: 'left', gain: 0, offset: 0.1 });
    expect(curve(left, 'face.mouthSmileLeft')[10]).toBeCloseTo(0.1, 6);
    expect(curve(left, 'face.mouthSmileRight')[10]).toBeCloseTo(0.9, 6);
  });

  it('is given to both sides, or changed over', () => {
    expect(curve(run(motion, 'mirror-face'), 'face.mouthSmileLeft')[5]).toBeCloseTo(0.65, 6);
    expect(curve(run(motion, 'mirror-face', { how: 'right' }), 'face.mouthSmileLeft')[5]).toBeCloseTo(0.9, 6);
    const swapped = run(motion, 'mirror-face', { how: 'swap' });
    expect([curve(swapped, 'face.mouthSmileLeft')[5], curve(swapped, 'face.mouthSmileRight')[5]]).toEqual([
      curve(motion, 'face.mouthSmileRight')[5],
      curve(motion, 'face.mouthSmileLeft')[5],
    ]);
  });
});

describe('blinks', () => {
  const lids = (frame: number): number => Math.max(0, 0.55 - Math.abs(frame - 60) * 0.15);
  const motion = example({ 'face.eyeBlinkLeft': lids, 'face.eyeBlinkRight': lids });

  it('that are half ones are told, and closed wholly by what mends them', () => {
    const [snag, ...others] = snags(motion, 'half-blink');
    expect(others).toEqual([]);
    expect(snag.from).toBeGreaterThan(54);
    expect(snag.until).toBeLessThan(66);
    const whole = mended(motion, snag);
    expect(Math.max(...curve(whole, 'face.eyeBlinkLeft'))).toBe(1);
    expect(curve(whole, 'face.eyeBlinkLeft')[40]).toBe(0);
    expect(snags(whole, 'half-blink')).toEqual([]);
  });

  it('that are whole ones are left alone', () => {
    const blink = (frame: number): number => Math.max(0, 1 - Math.abs(frame - 60) * 0.3);
    expect(snags(example({ 'face.eyeBlinkLeft': blink, 'face.eyeBlinkRight': blink }), 'half-blink')).toEqual([]);
  });
});

describe('the gaze', () => {
  it('that leaps away and back is told and held', () => {
    const motion = example({ [GAZE_CURVES.across]: (frame) => (frame === 50 || frame === 51 ? 0.4 : 0.05) });
    const [snag, ...others] = snags(motion, 'gaze-jump');
    expect(others).toEqual([]);
    expect([snag.from, snag.until]).toEqual([50, 52]);
    const held = mended(motion, snag);
    expect(Math.max(...curve(held, GAZE_CURVES.across))).toBeLessThan(0.1);
    expect(curve(held, 'face.eyeLookOutLeft')[50]).toBeLessThan(0.2);
  });

  it('that goes somewhere is no fault, and rests there', () => {
    const motion = example({
      [GAZE_CURVES.across]: (frame) => (frame < 60 ? 0 : 0.4) + 0.02 * Math.sin(frame * 2.1),
    });
    expect(snags(motion, 'gaze-jump')).toEqual([]);
    const held = curve(run(motion, 'hold-gaze'), GAZE_CURVES.across);
    expect(new Set(held.subarray(0, 58)).size).toBe(1);
    expect(held[100]).toBeCloseTo(0.4, 1);
    expect(new Set(held.subarray(66, FRAMES)).size).toBe(1);
  });
});

describe('fingers', () => {
  const bent = (share: (frame: number) => number): Motion => {
    const motion = example();
    const fist = handShape('fist');
    for (let frame = 0; frame < FRAMES; frame++)
      for (const [bone, turn] of handTurns(
        'left',
        fist.map((angle) => angle * share(frame)),
      ))
        writeRotation(motion, jointIndex(skeleton, bone), frame, turn);
    return motion;
  };

  it('that shake are told and calmed, in that hand alone', () => {
    const motion = bent((frame) => 0.4 + (frame >= 40 && frame < 70 ? (frame % 2) * 0.16 : 0));
    const [snag, ...others] = snags(motion, 'finger-shake');
    expect(others).toEqual([]);
    expect(snag.joint).toBe('leftHand');
    expect(Math.abs(snag.from - 40)).toBeLessThan(4);
    expect(snags(mended(motion, snag), 'finger-shake')).toEqual([]);
  });

  it('that close fast do not shake', () => {
    expect(
      snags(
        bent((frame) => Math.min(1, Math.max(0, (frame - 50) / 4))),
        'finger-shake',
      ),
    ).toEqual([]);
  });

  it('take a ready shape over a range, as much as is asked for', () => {
    const shaped = run(example(), 'shape-hand', { shape: 'fist', hand: 'right' }, { range: [40, 80], ease: 0 });
    const turnOf = (bone: string, frame: number): number[] => [
      ...readRotation(shaped, jointIndex(skeleton, bone), frame, [0, 0, 0, 1]),
    ];
    const wanted = handTurns('right', handShape('fist')).get('rightIndexProximal');
    turnOf('rightIndexProximal', 60).forEach((value, k) => expect(value).toBeCloseTo(wanted?.[k] ?? NaN, 5));
    expect(turnOf('rightIndexProximal', 20)).toEqual([0, 0, 0, 1]);
    expect(turnOf('leftIndexProximal', 60)).toEqual([0, 0, 0, 1]);
  });

  it('take a shape that was kept from a frame, on either hand', () => {
    const fist = run(example(), 'shape-hand', { shape: 'fist', hand: 'right' });
    const own = shapeAt(fist, 'right', 30, 'right hand of frame 30');
    const shaped = run(example(), 'shape-hand', { shape: 'open', hand: 'left', own });
    const wanted = handTurns('left', handShape('fist')).get('leftRingIntermediate');
    const turn = readRotation(shaped, jointIndex(skeleton, 'leftRingIntermediate'), 60, [0, 0, 0, 1]);
    for (let k = 0; k < 4; k++) expect(turn[k]).toBeCloseTo(wanted?.[k] ?? NaN, 5);
    expect(() => run(example(), 'shape-hand', { own: { name: 'half', angles: [1, 2] } })).toThrow();
  });
});

describe('what was not seen', () => {
  const flags = (from: number, until: number): Uint8Array =>
    Uint8Array.from({ length: FRAMES }, (_, frame) => (frame >= from && frame < until ? 1 : 0));

  it('is told of a hand that was lost, with how long', () => {
    const [snag, ...others] = snags(example(), 'hand-lost', { leftHand: flags(30, 66), rightHand: flags(50, 70) });
    expect(others).toEqual([]);
    expect([snag.joint, snag.from, snag.until, snag.severity]).toEqual(['leftHand', 30, 66, 1.2]);
  });

  it('is not told of a hand or a face that was hardly ever in the picture', () => {
    const unseen = { leftHand: flags(0, 95), face: flags(2, FRAMES) };
    expect([...snags(example(), 'hand-lost', unseen), ...snags(example(), 'face-lost', unseen)]).toEqual([]);
  });
});
