import { describe, expect, it } from '@jest/globals';
import { quat } from 'gl-matrix';
import { holdPlants } from '../ground/hold-plants';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { restMotion, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { NO_CONTEXT } from '../passes/pass';
import { passNamed } from '../passes/registry';
import { shake } from './shake';
import type { Snag, SnagDetector } from './snag';
import { hover, sink, slide } from './soles';
import { swaps } from './swaps';

const FRAMES = 90;

function standing(): Motion {
  return restMotion(humanoidSkeleton(averageProportions(1.7)), FRAMES, 30);
}

const find = (detector: SnagDetector, motion: Motion): Snag[] => detector.find({ motion, plants: [], bridged: null });
const KINDS = [slide, sink, hover, shake, swaps];

/** What a snag proposes, done. */
function mended(motion: Motion, { mends: [mend] }: Snag): Motion {
  if (!mend) return motion;
  if ('plants' in mend) return holdPlants(motion, mend.plants);
  return passNamed(mend.pass.pass).apply(
    motion,
    passNamed(mend.pass.pass).options.parse(mend.pass.options),
    NO_CONTEXT,
  );
}

describe('a body that stands still', () => {
  it.each(KINDS.map((kind) => [kind.kind, kind] as const))('has no %s', (_, kind) => {
    expect(find(kind, standing())).toEqual([]);
  });
});

describe('soles', () => {
  it('that slide are told with their way, and held by what is proposed', () => {
    const motion = standing();
    for (let f = 0; f < FRAMES; f++) motion.root[f * 3] += 0.006 * Math.max(0, Math.min(20, f - 30));
    const found = find(slide, motion);
    expect(new Set(found.map(({ joint }) => joint))).toEqual(new Set(['leftHeel', 'leftToe', 'rightHeel', 'rightToe']));
    for (const snag of found) {
      expect(snag.severity).toBeGreaterThan(8);
      expect(snag.severity).toBeLessThan(13);
      expect(snag.from).toBeGreaterThanOrEqual(28);
      expect(snag.until).toBeLessThanOrEqual(53);
    }
    // What is held no longer slides between the plant's ends.
    const [{ joint, from, until }] = found;
    const left = find(slide, mended(motion, found[0])).filter((snag) => snag.joint === joint);
    expect(left.some((snag) => snag.from < until - 2 && snag.until > from + 2)).toBe(false);
  });

  it('that sink are told with their depth', () => {
    const motion = standing();
    for (let f = 40; f < 60; f++) motion.root[f * 3 + 1] -= 0.04;
    const found = find(sink, motion);
    expect(found).toHaveLength(4);
    expect(found[0]).toMatchObject({ kind: 'sink', from: 40, until: 60, unit: 'cm' });
    expect(found[0].severity).toBeCloseTo(4, 1);
  });

  it('that hover are told with their height, and a jump is not taken for it', () => {
    const motion = standing();
    for (let f = 30; f < 60; f++) motion.root[f * 3 + 1] += 0.06;
    const [snag, ...others] = find(hover, motion);
    expect(others).toEqual([]);
    expect(snag).toMatchObject({ joint: 'hips', from: 30, until: 60 });
    expect(snag.severity).toBeCloseTo(6, 1);
    const jumping = standing();
    for (let f = 30; f < 45; f++) jumping.root[f * 3 + 1] += 0.3 * Math.sin((Math.PI * (f - 29)) / 16);
    expect(find(hover, jumping)).toEqual([]);
  });
});

describe('shake', () => {
  /** An arm that trembles in the middle of the take, and one that waves widely all along. */
  function trembling(): Motion {
    const motion = standing();
    const [left, right] = ['left', 'right'].map((side) => jointIndex(motion.skeleton, `${side}LowerArm`));
    for (let f = 0; f < FRAMES; f++) {
      if (f >= 30 && f < 60)
        writeRotation(motion, left, f, quat.setAxisAngle([0, 0, 0, 1], [0, 1, 0], f % 2 ? 0.05 : -0.05));
      writeRotation(motion, right, f, quat.setAxisAngle([0, 0, 0, 1], [0, 1, 0], Math.sin(f * 0.3)));
    }
    return motion;
  }

  it('is told of a hand that trembles, not of one that waves', () => {
    const found = find(shake, trembling());
    expect(found.map(({ joint }) => joint)).toEqual(['leftHand']);
    expect(found[0].from).toBeLessThan(33);
    expect(found[0].until).toBeGreaterThan(57);
  });

  it('is gone after what is proposed', () => {
    const motion = trembling();
    expect(find(shake, mended(motion, find(shake, motion)[0]))).toEqual([]);
  });
});

describe('sides taken for each other', () => {
  it('are told of arms that trade places and trade back', () => {
    const motion = standing();
    const [left, right] = ['left', 'right'].map((side) => jointIndex(motion.skeleton, `${side}UpperArm`));
    // The left arm points up, the right one ahead; from 30 until 50 it is the other way round.
    for (let f = 0; f < FRAMES; f++) {
      const otherwise = f >= 30 && f < 50;
      const [up, ahead] = [
        quat.setAxisAngle([0, 0, 0, 1], [0, 0, 1], 1.4),
        quat.setAxisAngle([0, 0, 0, 1], [0, 1, 0], -1.5),
      ];
      const [upRight, aheadRight] = [
        quat.setAxisAngle([0, 0, 0, 1], [0, 0, 1], -1.4),
        quat.setAxisAngle([0, 0, 0, 1], [0, 1, 0], 1.5),
      ];
      writeRotation(motion, left, f, otherwise ? ahead : up);
      writeRotation(motion, right, f, otherwise ? upRight : aheadRight);
    }
    expect(find(swaps, motion)).toMatchObject([{ kind: 'swap', joint: 'arms', from: 30, until: 50 }]);
    // Arms that trade places for good have done so.
    for (let f = 50; f < FRAMES; f++)
      for (const joint of [left, right])
        motion.rotations.copyWithin((joint * FRAMES + f) * 4, (joint * FRAMES + 49) * 4, (joint * FRAMES + 50) * 4);
    expect(find(swaps, motion)).toEqual([]);
  });
});
