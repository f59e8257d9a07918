import { quat } from 'gl-matrix';
import { observeMotion } from '../../../test/observe-motion';
import { lookAt } from '../../camera/pinhole';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { restMotion, writeRotation, type Motion } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import { findCalibrationPose } from './calibration-pose';
import { measureBody } from './proportions';

const HEIGHT = 1.7;
const camera = lookAt([0.2, 1.4, 5], [0, 0.9, 0], 52, 960, 540);

/** Somebody who stands with arms lowered by so many degrees from a T, turned by so many from the camera, from … until − 1; after it the arms wave. */
function standing(lowered: number, facing = 0, from = 10, until = 40): Motion {
  const motion = restMotion(humanoidSkeleton(averageProportions(HEIGHT)), 80, 30);
  for (let f = 0; f < motion.frames; f++) {
    writeRotation(motion, 0, f, quat.fromEuler(quat.create(), 0, facing, 0));
    const held = f >= from && f < until;
    const angle = held ? lowered : 40 + 45 * Math.sin(f * 0.7);
    for (const [side, s] of [
      ['left', -1],
      ['right', 1],
    ] as const) {
      writeRotation(
        motion,
        jointIndex(motion.skeleton, `${side}UpperArm`),
        f,
        quat.fromEuler(quat.create(), 0, 0, s * angle),
      );
      if (!held)
        writeRotation(
          motion,
          jointIndex(motion.skeleton, `${side}LowerArm`),
          f,
          quat.fromEuler(quat.create(), 0, s * 70, 0),
        );
    }
  }
  return motion;
}

describe('the calibration pose', () => {
  it.each([
    ['T', 0],
    ['T', 10],
    ['A', 40],
    ['A', 55],
  ] as const)('%s is found with arms %d° below level', (kind, lowered) => {
    const pose = findCalibrationPose(observeMotion(standing(lowered), camera, HEIGHT));
    expect(pose?.kind).toBe(kind);
    expect(Math.abs((pose?.from ?? 0) - 10)).toBeLessThanOrEqual(3);
    expect(Math.abs((pose?.until ?? 0) - 40)).toBeLessThanOrEqual(3);
  });

  it.each([30, 50, 68, -55, 150, 180])(
    'is found at a facing of %d°, and counts less the more it is turned',
    (facing) => {
      for (const [kind, lowered] of [
        ['T', 0],
        ['A', 45],
      ] as const) {
        const pose = findCalibrationPose(observeMotion(standing(lowered, facing), camera, HEIGHT));
        expect(pose?.kind).toBe(kind);
        expect(pose?.square).toBeCloseTo(Math.abs(Math.cos((facing * Math.PI) / 180)), 1);
      }
    },
  );

  it('is none where the arms hang, the body is seen from the side, the moment is too short, or nobody is seen', () => {
    const seen = observeMotion(standing(0), camera, HEIGHT);
    expect(findCalibrationPose(observeMotion(standing(80), camera, HEIGHT))).toBeNull();
    expect(findCalibrationPose(observeMotion(standing(0, 85), camera, HEIGHT))).toBeNull();
    expect(findCalibrationPose(observeMotion(standing(0, 0, 10, 16), camera, HEIGHT))).toBeNull();
    expect(findCalibrationPose({ ...seen, presence: new Float32Array(80) })).toBeNull();
  });

  it('counts as much as all the rest for the proportions, and gives way to a frame picked by hand', () => {
    const seen = observeMotion(standing(0), camera, HEIGHT);
    const found = measureBody(seen, HEIGHT);
    expect(found.pose).toMatchObject({ kind: 'T' });
    // Forearms that look longer in the pose alone.
    const world = seen.world.slice();
    for (let f = 10; f < 40; f++)
      for (const [wrist, elbow] of [
        [15, 13],
        [16, 14],
      ])
        for (let k = 0; k < 3; k++) {
          const [w, e] = [(f * 33 + wrist) * 3 + k, (f * 33 + elbow) * 3 + k];
          world[w] = world[e] + (seen.world[w] - seen.world[e]) * 1.2;
        }
    const longer = measureBody({ ...seen, world }, HEIGHT);
    const picked = measureBody({ ...seen, world }, HEIGHT, 70);
    const ratio = longer.proportions.foreArm / found.proportions.foreArm;
    // Most of it is taken for a mistake of measuring.
    expect(ratio).toBeGreaterThan(1.04);
    expect(ratio).toBeLessThan(1.08);
    expect(picked.pose).toBeNull();
    expect(picked.proportions.foreArm).toBeLessThan(longer.proportions.foreArm);
  });
});
