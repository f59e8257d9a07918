import { z } from 'zod';
import { quat } from 'gl-matrix';
import { mirrorName, SIDES } from '../motion/humanoid';
import { alignSigns, copyMotion, emptyPose, poseAt, readRotation, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import type { Pass } from './pass';

const Options = z.object({
  limbs: z
    .enum(['legs', 'arms', 'both'])
    .default('legs')
    .meta({ title: 'Limbs', choices: { legs: 'legs', arms: 'arms', both: 'arms and legs' } }),
});

const LEG = /^(left|right)(UpperLeg|LowerLeg|Foot|Toes)$/;
/** What hangs on an upper arm. */
const ARM = /^(left|right)(LowerArm|Hand|Thumb|Index|Middle|Ring|Little)/;
/** The rest directions of both arms differ by half a turn about +Y. */
const OVER: quat = [0, 1, 0, 0];
const BACK: quat = [0, -1, 0, 0];

/** Makes each left limb point where the right one pointed, and the other way round: for ranges in which the tracker took one for the other. */
export const swapSides: Pass<z.infer<typeof Options>> = {
  name: 'swap-sides',
  title: 'Swap left and right',
  about: 'For a range in which left and right were taken for each other.',
  options: Options,
  reach: () => 0,
  apply(motion: Motion, { limbs }): Motion {
    const out = copyMotion(motion);
    const times = (...turns: quat[]): quat => turns.reduce((all, turn) => quat.multiply([0, 0, 0, 1], all, turn));
    motion.skeleton.joints.forEach(({ name }, joint) => {
      const other = jointIndex(motion.skeleton, mirrorName(name));
      const leg = LEG.test(name) && limbs !== 'arms';
      const arm = ARM.test(name) && limbs !== 'legs';
      if (other < 0 || !(leg || arm)) return;
      for (let frame = 0; frame < motion.frames; frame++) {
        const turn = readRotation(motion, other, frame, [0, 0, 0, 1]);
        writeRotation(out, joint, frame, leg ? turn : times(BACK, turn, OVER));
      }
    });
    if (limbs !== 'legs') swapUpperArms(motion, out, times);
    alignSigns(out);
    return out;
  },
};

/** Upper arms hang on shoulders that are turned each in its own way: they trade their turns in the world. */
function swapUpperArms(motion: Motion, out: Motion, times: (...turns: quat[]) => quat): void {
  const pose = emptyPose(motion.skeleton);
  const world = (joint: number): quat => [...pose.rotations.subarray(joint * 4, joint * 4 + 4)] as quat;
  const arms = SIDES.map((side) => jointIndex(motion.skeleton, `${side}UpperArm`));
  if (Math.min(...arms) < 0) return;
  for (let frame = 0; frame < motion.frames; frame++) {
    poseAt(motion, frame, pose);
    arms.forEach((arm, i) => {
      const above = world(motion.skeleton.joints[arm].parent);
      writeRotation(out, arm, frame, times(quat.conjugate(above, above), world(arms[1 - i]), OVER));
    });
  }
}
