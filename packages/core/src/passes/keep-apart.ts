import { z } from 'zod';
import { quat, vec3 } from 'gl-matrix';
import { SIDES } from '../motion/humanoid';
import { turnInWorld } from '../motion/limb-ik';
import { alignSigns, copyMotion, emptyPose, poseAt, type Motion } from '../motion/motion';
import { chainOf, jointIndex } from '../motion/skeleton';
import { gaussianColumns, gaussianReach } from '../signal/gaussian';
import type { Pass } from './pass';

const Options = z.object({
  girth: z.number().min(4).max(40).default(12).meta({ title: 'Half width of the trunk', unit: 'cm' }),
});

/** Spread of the push in time, seconds. */
const SPREAD = 0.06;

/** How deep the forearms are in the trunk, frame by frame, and which way is out: frames × 4 for each side (x, y, z, depth). */
export function crossings(motion: Motion, girth: number): Record<'left' | 'right', Float32Array> {
  const out = { left: new Float32Array(motion.frames * 4), right: new Float32Array(motion.frames * 4) };
  const index = (name: string): number => jointIndex(motion.skeleton, name);
  const [hips, neck] = [index('hips'), index('neck')];
  const arms = SIDES.map((side) => ({
    elbow: index(`${side}LowerArm`),
    wrist: index(`${side}Hand`),
    found: out[side],
  }));
  const chain = chainOf(motion.skeleton, [neck, ...arms.map(({ wrist }) => wrist)]);
  const pose = emptyPose(motion.skeleton);
  const away = new Float64Array(3);
  for (let frame = 0; frame < motion.frames; frame++) {
    poseAt(motion, frame, pose, chain);
    for (const { elbow, wrist, found } of arms) {
      // The elbow itself may lie close by; what enters is the forearm, most of all the wrist.
      for (const t of [0.5, 0.75, 1]) {
        const far = awayFrom(pose.positions, hips, neck, elbow, wrist, t, away);
        if (girth - far <= found[frame * 4 + 3]) continue;
        for (let k = 0; k < 3; k++) found[frame * 4 + k] = away[k] / far;
        found[frame * 4 + 3] = girth - far;
      }
    }
  }
  return out;
}

/** From the nearest point of the line between two joints to a point on the forearm. @returns its length, metres. */
function awayFrom(
  places: Float64Array,
  hips: number,
  neck: number,
  elbow: number,
  wrist: number,
  t: number,
  out: Float64Array,
): number {
  let [dot, square] = [0, 0];
  for (let k = 0; k < 3; k++) {
    const line = places[neck * 3 + k] - places[hips * 3 + k];
    out[k] = places[elbow * 3 + k] * (1 - t) + places[wrist * 3 + k] * t - places[hips * 3 + k];
    dot += out[k] * line;
    square += line * line;
  }
  const along = Math.min(1, Math.max(0, dot / square));
  for (let k = 0; k < 3; k++) out[k] -= along * (places[neck * 3 + k] - places[hips * 3 + k]);
  return Math.hypot(out[0], out[1], out[2]);
}

/**
 * Keeps forearms out of the trunk, taken as a tube from hips to neck: where a forearm is inside, the upper
 * arm is turned so that it comes out the shortest way; the push is spread over neighbouring frames.
 */
export const keepApart: Pass<z.infer<typeof Options>> = {
  name: 'keep-apart',
  title: 'Keep arms out of the body',
  about: 'Turns the upper arms out where a forearm runs through the trunk.',
  options: Options,
  reach: (_, rate) => gaussianReach(SPREAD * rate),
  apply(motion: Motion, { girth }): Motion {
    const found = crossings(motion, girth / 100);
    const out = copyMotion(motion);
    const pose = emptyPose(motion.skeleton);
    for (const side of SIDES) {
      const pushes = new Float32Array(motion.frames * 3);
      for (let f = 0; f < motion.frames; f++)
        for (let k = 0; k < 3; k++) pushes[f * 3 + k] = found[side][f * 4 + k] * found[side][f * 4 + 3];
      if (pushes.every((value) => value === 0)) continue;
      const soft = gaussianColumns(pushes, 3, SPREAD * motion.rate);
      const [arm, hand] = ['UpperArm', 'Hand'].map((part) => jointIndex(motion.skeleton, side + part));
      const chain = chainOf(motion.skeleton, [hand]);
      for (let frame = 0; frame < motion.frames; frame++) {
        if (soft[frame * 3] === 0 && soft[frame * 3 + 1] === 0 && soft[frame * 3 + 2] === 0) continue;
        // The full push where it is needed, the spread one around it.
        const [own, spread] = [pushes, soft].map(
          (values): vec3 => [...values.subarray(frame * 3, frame * 3 + 3)] as vec3,
        );
        const push = vec3.length(own) > vec3.length(spread) ? own : spread;
        if (vec3.length(push) < 1e-5) continue;
        poseAt(out, frame, pose, chain);
        const place = (joint: number): vec3 => [...pose.positions.subarray(joint * 3, joint * 3 + 3)] as vec3;
        const from = vec3.subtract([0, 0, 0], place(hand), place(arm));
        const to = vec3.add([0, 0, 0], from, push);
        const turn = quat.rotationTo([0, 0, 0, 1], vec3.normalize(from, from), vec3.normalize(to, to));
        const { parent } = motion.skeleton.joints[arm];
        turnInWorld(out, frame, arm, pose.rotations, parent * 4, turn);
      }
    }
    alignSigns(out);
    return out;
  },
};
