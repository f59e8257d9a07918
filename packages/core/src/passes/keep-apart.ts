import { z } from 'zod';
import { quat, vec3 } from 'gl-matrix';
import { SIDES } from '../motion/humanoid';
import { turnInWorld } from '../motion/limb-ik';
import { alignSigns, copyMotion, emptyPose, poseAt, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { gaussianColumns } from './gaussian';
import type { Pass } from './pass';

const Options = z.object({
  girth: z.number().min(4).max(40).default(12).meta({ title: 'Half width of the trunk', unit: 'cm' }),
});

/** Spread of the push in time, seconds. */
const SPREAD = 0.06;

/** A straight tube of the body. */
interface Tube {
  from: vec3;
  to: vec3;
}

/** How deep the forearms are in the trunk, frame by frame, and which way is out: frames × 4 for each side (x, y, z, depth). */
export function crossings(motion: Motion, girth: number): Record<'left' | 'right', Float32Array> {
  const out = { left: new Float32Array(motion.frames * 4), right: new Float32Array(motion.frames * 4) };
  const index = (name: string): number => jointIndex(motion.skeleton, name);
  const trunk = [index('hips'), index('neck')];
  const pose = emptyPose(motion.skeleton);
  const place = (joint: number): vec3 => [...pose.positions.subarray(joint * 3, joint * 3 + 3)] as vec3;
  for (let frame = 0; frame < motion.frames; frame++) {
    poseAt(motion, frame, pose);
    const tube: Tube = { from: place(trunk[0]), to: place(trunk[1]) };
    for (const side of SIDES) {
      const [elbow, wrist] = [place(index(`${side}LowerArm`)), place(index(`${side}Hand`))];
      let deepest = 0;
      // The elbow itself may lie close by; what enters is the forearm, most of all the wrist.
      for (const t of [0.5, 0.75, 1]) {
        const point = vec3.lerp([0, 0, 0], elbow, wrist, t);
        const away = vec3.subtract([0, 0, 0], point, nearestOn(tube, point));
        const depth = girth - vec3.length(away);
        if (depth <= deepest) continue;
        deepest = depth;
        vec3.normalize(away, away);
        out[side].set([away[0], away[1], away[2], depth], frame * 4);
      }
    }
  }
  return out;
}

function nearestOn({ from, to }: Tube, point: vec3): vec3 {
  const line = vec3.subtract([0, 0, 0], to, from);
  const t = vec3.dot(vec3.subtract([0, 0, 0], point, from), line) / vec3.squaredLength(line);
  return vec3.scaleAndAdd([0, 0, 0], from, line, Math.min(1, Math.max(0, t)));
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
      for (let frame = 0; frame < motion.frames; frame++) {
        // The full push where it is needed, the spread one around it.
        const [own, spread] = [pushes, soft].map(
          (values): vec3 => [...values.subarray(frame * 3, frame * 3 + 3)] as vec3,
        );
        const push = vec3.length(own) > vec3.length(spread) ? own : spread;
        if (vec3.length(push) < 1e-5) continue;
        poseAt(out, frame, pose);
        const place = (joint: number): vec3 => [...pose.positions.subarray(joint * 3, joint * 3 + 3)] as vec3;
        const from = vec3.subtract([0, 0, 0], place(hand), place(arm));
        const to = vec3.add([0, 0, 0], from, push);
        const turn = quat.rotationTo([0, 0, 0, 1], vec3.normalize(from, from), vec3.normalize(to, to));
        const { parent } = motion.skeleton.joints[arm];
        turnInWorld(out, frame, arm, [...pose.rotations.subarray(parent * 4, parent * 4 + 4)] as quat, turn);
      }
    }
    alignSigns(out);
    return out;
  },
};
