import { quat } from 'gl-matrix';
import { hangLegs, legsOf } from '../../motion/legs';
import { reachFor } from '../../motion/limb-ik';
import { alignSigns, copyMotion, emptyPose, poseAt, type Motion } from '../../motion/motion';
import { restPositions } from '../../motion/skeleton';
import { gaussianColumns } from '../../signal/gaussian';
import { usualFacing, usualPlace } from '../../signal/usual';

/** How high hips are held, of the height with straight legs, and how far they may come down from there, metres. */
const SOFT_KNEES = 0.985;
const LOWEST = 0.35;
/** Hips that stray less than this from their middle stand on one spot, metres; farther ones go about, and the feet go along with their slow path, seconds. */
const ON_SPOT = 0.3;
const SLOW = 1;

/**
 * Lets a body stand whose legs were never seen: feet flat on the floor below the hips, pointing where the body mostly faces, knees soft; the legs follow what the hips
 * do (`reachFor`). What the network guesses of legs outside the picture is not believed.
 */
export function standUp(source: Motion): Motion {
  const motion = copyMotion(source);
  const { frames, rate, skeleton } = motion;
  const yaw = usualFacing(source);
  const facing = quat.setAxisAngle([0, 0, 0, 1], [0, 1, 0], yaw);
  const middle = [0, 1, 2].map((k) => usualPlace(source, k));
  const strays = Float64Array.from({ length: frames }, (_, frame) =>
    Math.hypot(source.root[frame * 3] - middle[0], source.root[frame * 3 + 2] - middle[2]),
  ).sort();
  const goesAbout = strays[Math.floor(0.95 * (frames - 1))] > ON_SPOT;
  const slow = gaussianColumns(source.root, 3, SLOW * rate);
  const rest = restPositions(skeleton);
  const standing = rest[1] * SOFT_KNEES;
  const pose = emptyPose(skeleton);
  const legs = legsOf(skeleton);
  for (let frame = 0; frame < frames; frame++) {
    const sunk = Math.max(-LOWEST, Math.min(0, source.root[frame * 3 + 1] - middle[1]));
    motion.root[frame * 3 + 1] = standing + sunk;
    hangLegs(motion, frame, legs, facing);
    poseAt(motion, frame, pose);
    const under = goesAbout ? [slow[frame * 3], slow[frame * 3 + 2]] : [middle[0], middle[2]];
    for (const leg of legs) {
      const [x, y, z] = rest.subarray(leg.end * 3, leg.end * 3 + 3);
      const [cos, sin] = [Math.cos(yaw), Math.sin(yaw)];
      const place = [under[0] + cos * x + sin * z, y, under[1] - sin * x + cos * z];
      reachFor(motion, pose, frame, leg, place, facing);
    }
  }
  alignSigns(motion);
  return motion;
}
