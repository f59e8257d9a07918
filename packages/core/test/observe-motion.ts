import { vec3, type quat } from 'gl-matrix';
import { MARK_PARTS, markPlace, type MarkPart } from '../src/solve/body/joint-offsets';
import { solveTake, type SolvedFootage, type SolvedTake, type SolveOptions } from '../src/solve/solve-take';
import { project, type PinholeCamera } from '../src/camera/pinhole';
import { emptyPose, poseAt, type Motion } from '../src/motion/motion';
import { jointIndex } from '../src/motion/skeleton';
import { emptyBodyObservations, MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../src/observe/body';

type Place = [joint: string, turnsWith: string, offset: readonly [number, number, number]];

/** Joint that a mark lies at, and the offset from it in the axes of a bone, metres. */
function placeOf(name: MarkName, height: number): Place {
  const h = height;
  const side = name.startsWith('left') || name === 'mouthLeft' ? 'left' : 'right';
  const k = side === 'left' ? 1 : -1;
  const part = name.replace(/^(left|right)/, '');
  if (MARK_PARTS.includes(part as MarkPart)) {
    const { joint, turnsWith, offset } = markPlace(side, part as MarkPart);
    return [joint, turnsWith, [offset[0] * h, offset[1] * h, offset[2] * h]];
  }
  if (name === 'nose') return ['head', 'head', [0, 0.023 * h, 0.064 * h]];
  if (/Ear$/.test(name)) return ['head', 'head', [k * 0.044 * h, 0.032 * h, 0]];
  if (/Eye|mouth/.test(name)) return ['head', 'head', [k * 0.02 * h, 0.03 * h, 0.05 * h]];
  const z = { Index: 0.015, Pinky: -0.02, Thumb: 0.03 }[part] ?? 0;
  return [`${side}Hand`, `${side}Hand`, [k * 0.05 * h, 0, z * h]];
}

/** What a tracker without error would see of a motion. */
export function observeMotion(motion: Motion, camera: PinholeCamera, height: number): BodyObservations {
  const out = emptyBodyObservations(motion.frames, motion.rate, camera.width, camera.height);
  const pose = emptyPose(motion.skeleton);
  for (let frame = 0; frame < motion.frames; frame++) {
    poseAt(motion, frame, pose);
    const points = (Object.keys(MARK) as MarkName[]).map((name) => {
      const [joint, turnsWith, offset] = placeOf(name, height);
      const j = jointIndex(motion.skeleton, joint);
      const t = jointIndex(motion.skeleton, turnsWith);
      const moved = vec3.transformQuat(
        [0, 0, 0],
        [offset[0], offset[1], offset[2]],
        Array.from(pose.rotations.subarray(t * 4, t * 4 + 4)) as quat,
      );
      return [0, 1, 2].map((i) => pose.positions[j * 3 + i] + moved[i]);
    });
    points.forEach(([x, y, z], m) => {
      const [px, py] = project(camera, x, y, z);
      out.marks.set([px, py, 0.99], (frame * MARK_COUNT + m) * 3);
    });
    const hip = [0, 1, 2].map((i) => (points[MARK.leftHip][i] + points[MARK.rightHip][i]) / 2);
    points.forEach((point, m) => {
      const d = point.map((value, i) => value - hip[i]);
      const { axes } = camera;
      out.world.set(
        [0, 3, 6].map((row) => axes[row] * d[0] + axes[row + 1] * d[1] + axes[row + 2] * d[2]),
        (frame * MARK_COUNT + m) * 3,
      );
    });
    out.presence[frame] = 0.99;
  }
  return out;
}

/** Solves made-up observations, whose points are true ones: nothing that was learned of the network's faults is to be taken out. */
export function solveMade(observations: SolvedFootage, options: SolveOptions = {}): SolvedTake {
  return solveTake(observations, { correction: null, ...options });
}
