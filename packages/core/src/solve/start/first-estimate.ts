import { quat, vec3 } from 'gl-matrix';
import { humanoidSkeleton } from '../../motion/humanoid';
import { emptyPose, poseAt, readRotation, restMotion, writeRotation, type Motion } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import { isSeen, MARK_COUNT } from '../../observe/body';
import { closerLook } from './closer-look';
import { MARK_OFFSETS } from '../body/joint-offsets';
import { PoseFromPoints } from './pose-from-points';
import type { MeasuredBody } from '../body/proportions';
import { placeBody, PLACING } from './root-path';
import type { SeenBody } from '../observe/observe-shot';
import { SolveError } from '../solved';

/**
 * First estimate, frame by frame: a pose from the network's points, placed so that its joints fall on the marks.
 * @returns the motion in the camera's axes, and 1 for frames that could be placed.
 * @throws SolveError when nobody was seen.
 */
export function firstEstimate(
  { steady, observations, focal }: SeenBody,
  body: MeasuredBody,
): { motion: Motion; placed: Uint8Array } {
  const { frames, rate } = observations;
  const seen = Array.from({ length: frames }, (_, frame) => frame).filter((frame) => isSeen(observations, frame));
  if (seen.length === 0) throw new SolveError('Nobody was seen in this take, so there is no motion to make.');
  const skeleton = humanoidSkeleton(body.proportions);
  const motion = restMotion(skeleton, frames, rate);
  const poser = new PoseFromPoints(skeleton);
  const pose = emptyPose(skeleton);
  const placing = PLACING.map(([, joint]) => jointIndex(skeleton, joint));
  const placed = new Uint8Array(frames);
  for (const frame of seen) {
    poser
      .solve(observations.world, frame * MARK_COUNT * 3, closerLook(steady, frame))
      .forEach((turn, joint) => writeRotation(motion, joint, frame, turn));
    motion.root.fill(0, frame * 3, frame * 3 + 3);
    poseAt(motion, frame, pose);
    const place = placeBody(
      observations,
      frame,
      networkPoints(pose.positions, placing, body.proportions.height),
      focal,
    );
    if (!place) continue;
    motion.root.set(place, frame * 3);
    placed[frame] = 1;
  }
  if (!placed.includes(1)) throw new SolveError('The body was never seen well enough to place it in the room.');
  return { motion, placed };
}

/** Joints where the network sees them: ankles higher. */
function networkPoints(positions: Float64Array, placing: readonly number[], height: number): number[][] {
  const at = (joint: number): vec3 => [positions[joint * 3], positions[joint * 3 + 1], positions[joint * 3 + 2]];
  const towards = (from: vec3, to: vec3, metres: number): vec3 => {
    const line = vec3.subtract([0, 0, 0], to, from);
    return vec3.scaleAndAdd([0, 0, 0], from, vec3.normalize(line, line), metres);
  };
  return PLACING.map(([, joint], i) => {
    const point = at(placing[i]);
    if (joint.endsWith('Foot')) return [...towards(point, at(placing[i - 1]), MARK_OFFSETS.Ankle[1] * height)];
    return [...point];
  });
}

/** Fills frames without a place from their neighbours: straight between, held at the ends. */
export function bridgeGaps(motion: Motion, placed: Uint8Array): Uint8Array {
  const bridged = placed.map((flag) => 1 - flag);
  const good = Array.from(placed.keys()).filter((frame) => placed[frame]);
  const a: quat = [0, 0, 0, 1];
  const b: quat = [0, 0, 0, 1];
  let next = 0;
  for (let frame = 0; frame < motion.frames; frame++) {
    while (next < good.length && good[next] < frame) next++;
    if (placed[frame]) continue;
    const after = good[Math.min(next, good.length - 1)];
    const before = good[Math.max(0, next - 1)];
    const t = after > before ? Math.min(1, Math.max(0, (frame - before) / (after - before))) : 0;
    for (let joint = 0; joint < motion.skeleton.joints.length; joint++) {
      readRotation(motion, joint, before, a);
      readRotation(motion, joint, after, b);
      writeRotation(motion, joint, frame, quat.slerp([0, 0, 0, 1], a, b, t));
    }
    for (let axis = 0; axis < 3; axis++)
      motion.root[frame * 3 + axis] = motion.root[before * 3 + axis] * (1 - t) + motion.root[after * 3 + axis] * t;
  }
  return bridged;
}
