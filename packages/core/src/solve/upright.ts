import { quat, vec3 } from 'gl-matrix';
import { isSeen, MARK, MARK_COUNT, type BodyObservations } from '../observe/body';

/**
 * Which way is up in the camera's axes, from the body itself: over frames with straight legs, the
 * line from the ankles to the shoulders is upright on average.
 * @param points frames × 33 × 3, metres, camera axes.
 * @returns the turn that brings camera axes to the world's (+Y up).
 */
export function uprightTurn(observations: BodyObservations, points: Float32Array): quat {
  const lines: { line: vec3; straight: number }[] = [];
  const middle = (frame: number, a: number, b: number): vec3 => {
    const i = (frame * MARK_COUNT + a) * 3;
    const k = (frame * MARK_COUNT + b) * 3;
    return [0, 1, 2].map((axis) => (points[i + axis] + points[k + axis]) / 2) as vec3;
  };
  for (let frame = 0; frame < observations.frames; frame++) {
    if (!isSeen(observations, frame)) continue;
    const ankles = middle(frame, MARK.leftAnkle, MARK.rightAnkle);
    const knees = middle(frame, MARK.leftKnee, MARK.rightKnee);
    const hips = middle(frame, MARK.leftHip, MARK.rightHip);
    const shoulders = middle(frame, MARK.leftShoulder, MARK.rightShoulder);
    const whole = vec3.distance(ankles, knees) + vec3.distance(knees, hips) + vec3.distance(hips, shoulders);
    const line = vec3.subtract([0, 0, 0], shoulders, ankles);
    const straight = vec3.length(line) / whole;
    lines.push({ line: vec3.normalize(line, line), straight });
  }
  if (lines.length === 0) return [0, 0, 0, 1];
  lines.sort((a, b) => b.straight - a.straight);
  const best = lines.slice(0, Math.max(1, Math.round(lines.length * 0.5)));
  const median = (axis: number): number =>
    best.map((item) => item.line[axis]).sort((a, b) => a - b)[Math.floor(best.length / 2)];
  const up = vec3.normalize([0, 0, 0], [median(0), median(1), median(2)]);
  if (up[1] < 0.6) return [0, 0, 0, 1];
  return quat.rotationTo([0, 0, 0, 1], up, [0, 1, 0]);
}
