import { describe, expect, it } from '@jest/globals';
import { quat, vec3 } from 'gl-matrix';
import { observeMotion } from '../../../test/observe-motion';
import { lookAt } from '../../camera/pinhole';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { restMotion, writeRotation, type Motion } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import { emptyBodyObservations } from '../../observe/body';
import { uprightTurn } from './upright';

/** Somebody who stands for some frames and crouches in the others, hips far behind the ankles. */
function crouching(standing: number, frames = 40): Motion {
  const motion = restMotion(humanoidSkeleton(averageProportions(1.7)), frames, 30);
  for (let f = standing; f < frames; f++)
    for (const [name, bend] of [
      ['leftUpperLeg', -80],
      ['leftLowerLeg', 60],
      ['rightUpperLeg', -80],
      ['rightLowerLeg', 60],
    ] as const)
      writeRotation(motion, jointIndex(motion.skeleton, name), f, quat.fromEuler([0, 0, 0, 1], bend, 0, 0));
  return motion;
}

/** By how many degrees the up that is told differs from the true one. */
function off(motion: Motion, height: number): number {
  const camera = lookAt([0, height, 4.5], [0, 0.9, 0], 55, 960, 540);
  const seen = observeMotion(motion, camera, 1.7);
  const { axes } = camera;
  const up = vec3.transformQuat([0, 0, 0], [axes[1], axes[4], axes[7]], uprightTurn(seen, seen.world));
  return (vec3.angle(up, [0, 1, 0]) * 180) / Math.PI;
}

describe('which way is up', () => {
  it.each([0.5, 1.4, 2.6])('is told by a standing body to a camera %s m high', (height) => {
    // A body made of straight lines does not lean ahead as people do: 3° are its own, 4° the network's lean of shins and thighs.
    expect(off(crouching(40), height)).toBeLessThan(7.5);
  });

  it('is what cameras mostly have where a body never stands', () => {
    const seen = observeMotion(crouching(0), lookAt([0, 1.4, 4.5], [0, 0.9, 0], 55, 960, 540), 1.7);
    const [, y, z] = vec3.transformQuat(
      [0, 0, 0],
      [0, 1, 0],
      quat.conjugate([0, 0, 0, 1], uprightTurn(seen, seen.world)),
    );
    expect((Math.atan2(z, y) * 180) / Math.PI).toBeGreaterThan(2);
    expect((Math.atan2(z, y) * 180) / Math.PI).toBeLessThan(14);
  });

  it('is told by the frames in which the body stands, though it crouches in half of them', () => {
    expect(Math.abs(off(crouching(20), 1.4) - off(crouching(40), 1.4))).toBeLessThan(1);
  });

  it("is the camera's own where nobody is seen", () => {
    const empty = emptyBodyObservations(10, 30, 960, 540);
    expect(uprightTurn(empty, empty.world)).toEqual([0, 0, 0, 1]);
  });
});
