import { jointIndex } from '../../motion/skeleton';
import type { Motion } from '../../motion/motion';
import type { BandedSystem } from './banded';
import type { BodyModel } from './body-model';
import { beyondHinge, HINGE_SIGMA } from './limits';
import { spineBend, WAIST_SIGMA, WAIST_STEP } from './waist';

/**
 * What joints tell by themselves, whatever is seen: elbows and knees don't bend over, and the waist is calm.
 * @returns what adds their residuals in a frame to the system of the frames from `first` to `until` − 1.
 */
export function jointRows(
  motion: Motion,
  model: BodyModel,
  system: BandedSystem,
  { first, until }: { first: number; until: number },
): { addHinges: (frame: number) => void; addWaist: (frame: number) => void } {
  const D = model.unknowns.length;
  const spine = jointIndex(motion.skeleton, 'spine');
  const spineUnknown = model.unknowns.findIndex(({ joint }) => joint === spine);
  const hinges = model.unknowns.flatMap(({ joint, kind, axis }, i) =>
    kind === 'hinge'
      ? [
          {
            unknown: i,
            joint,
            axis,
            sign: axis === 0 ? 1 : motion.skeleton.joints[joint].name.startsWith('left') ? -1 : 1,
          },
        ]
      : [],
  );
  const indices = new Int32Array(6);
  const coefficients = new Float64Array(6);
  const jacobian = new Float64Array(3);
  return { addHinges, addWaist };

  function addHinges(frame: number): void {
    for (const { unknown, joint, axis, sign } of hinges) {
      const at = (joint * motion.frames + frame) * 4;
      const bend = 2 * Math.atan2(motion.rotations[at + axis], motion.rotations[at + 3]) * sign;
      const beyond = beyondHinge(bend);
      if (beyond === 0) continue;
      indices[0] = (frame - first) * D + unknown;
      coefficients[0] = sign;
      system.add(indices, coefficients, 1, beyond, 1 / (HINGE_SIGMA * HINGE_SIGMA));
    }
  }

  /** Keeps the spine's bend against the pelvis small, and calm from frame to frame. */
  function addWaist(frame: number): void {
    for (let part = 0; part < 3; part++) {
      const here = bend(frame, part, 0, 1);
      system.add(indices, coefficients, 3, -here, 1 / (WAIST_SIGMA * WAIST_SIGMA));
      if (frame + 1 === until) continue;
      const step = (WAIST_STEP * 30) / motion.rate;
      system.add(indices, coefficients, 6, bend(frame + 1, part, 3, -1) - here, 1 / (step * step));
    }
  }

  function bend(frame: number, part: number, used: number, factor: number): number {
    const value = spineBend(motion, spine, frame, part, jacobian);
    for (let axis = 0; axis < 3; axis++) {
      indices[used + axis] = (frame - first) * D + spineUnknown + axis;
      coefficients[used + axis] = factor * jacobian[axis];
    }
    return value;
  }
}
