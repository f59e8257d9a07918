import { quat } from 'gl-matrix';
import { solePoints, soleTrack } from '../../ground/floor';
import { SIDES } from '../../motion/humanoid';
import { alignSigns, copyMotion, readRotation, writeRotation, type Motion } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import { gaussianColumns } from '../../signal/gaussian';
import { median } from '../../signal/joint-columns';
import { usualFacing, usualPlace } from '../../signal/usual';

/** How a performer moves: about the room, without leaving the spot, seated with the legs out of sight, or with the camera held on the head, so that the face alone is seen. */
export const MANNERS = ['about', 'spot', 'seated', 'held'] as const;
export type Manner = (typeof MANNERS)[number];

/** What is slower than this is drift in a take on the spot, seconds. */
const DRIFT = 3;

/** Takes slow travel over the floor out: a body on the spot goes nowhere. Changes the motion in place. */
export function keepOnSpot(motion: Motion): void {
  const { root, frames } = motion;
  // First the straight line through all of it, which smoothing follows badly at the ends.
  for (const k of [0, 2]) {
    let [mean, tilt, spread] = [0, 0, 0];
    for (let f = 0; f < frames; f++) mean += root[f * 3 + k] / frames;
    for (let f = 0; f < frames; f++) {
      const t = f - (frames - 1) / 2;
      tilt += t * (root[f * 3 + k] - mean);
      spread += t * t;
    }
    for (let f = 0; f < frames; f++) root[f * 3 + k] -= spread > 0 ? (f * tilt) / spread : 0;
  }
  const slow = gaussianColumns(root, 3, (DRIFT * motion.rate) / 2);
  for (let frame = 0; frame < frames; frame++)
    for (const k of [0, 2]) root[frame * 3 + k] -= slow[frame * 3 + k] - slow[k];
}

/**
 * Seats a motion: the hips stay where they are most of the time, at the height of a chair that the legs fit,
 * and the legs rest: thighs level, to where the body faces, shins upright, feet flat on the floor.
 */
export function seat(source: Motion): Motion {
  const motion = copyMotion(source);
  const hips: quat = [0, 0, 0, 1];
  const yaw = usualFacing(source);
  const ahead = quat.setAxisAngle([0, 0, 0, 1], [0, 1, 0], yaw);
  const place = [0, 2].map((k) => usualPlace(source, k));
  const level = quat.setAxisAngle([0, 0, 0, 1], [1, 0, 0], -Math.PI / 2);
  for (let frame = 0; frame < motion.frames; frame++) {
    motion.root.set([place[0], 0, place[1]], frame * 3);
    readRotation(motion, 0, frame, hips);
    const local = quat.multiply([0, 0, 0, 1], quat.conjugate([0, 0, 0, 1], hips), ahead);
    for (const side of SIDES) {
      const set = (part: string, turn: quat): void => {
        const joint = jointIndex(motion.skeleton, side + part);
        if (joint >= 0) writeRotation(motion, joint, frame, turn);
      };
      set('UpperLeg', quat.multiply([0, 0, 0, 1], local, level));
      set('LowerLeg', quat.conjugate([0, 0, 0, 1], level));
      set('Foot', [0, 0, 0, 1]);
      set('Toes', [0, 0, 0, 1]);
    }
  }
  const points = solePoints(motion);
  const track = soleTrack(motion, points);
  const soles = Array.from({ length: motion.frames }, (_, frame) => {
    let low = Infinity;
    for (let p = 0; p < points.length; p++) low = Math.min(low, track[(frame * points.length + p) * 3 + 1]);
    return low;
  });
  const lift = -median(soles);
  for (let frame = 0; frame < motion.frames; frame++) motion.root[frame * 3 + 1] += lift;
  alignSigns(motion);
  return motion;
}
