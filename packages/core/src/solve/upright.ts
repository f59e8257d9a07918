import { quat, vec3 } from 'gl-matrix';
import { isSeen, MARK, MARK_COUNT, type BodyObservations } from '../observe/body';

/** Share of the frames, those with the straightest legs, that are believed. */
const BEST_SHARE = 0.4;
/**
 * How far the hips stand ahead of the ankles in a body that stands upright, radians: the line of gravity
 * passes some 5 cm before the ankle joint and close behind the hip joint (D. A. Winter, "Human balance and
 * posture control during standing and walking", Gait & Posture 3, 1995).
 */
const AHEAD = 0.055;

/** A camera stands level to some 1.5°, the line's roll tells it to 2.5° (weight shifts from leg to leg): the share that is believed. */
const ROLL_SHARE = 0.3;

/**
 * Which way is up in the camera's axes, from the body itself: over frames with straight legs, the line from
 * the ankles to the hips is upright on average, but for the little that a standing body leans ahead. The
 * trunk is left out: the network bends it by several degrees.
 * @param points frames × 33 × 3, metres, camera axes.
 * @returns the turn that brings camera axes to the world's (+Y up).
 */
export function uprightTurn(observations: BodyObservations, points: Float32Array): quat {
  const lines: { line: vec3; straight: number }[] = [];
  const at = (frame: number, mark: number): vec3 => {
    const i = (frame * MARK_COUNT + mark) * 3;
    return [points[i], points[i + 1], points[i + 2]];
  };
  const middle = (frame: number, a: number, b: number): vec3 => vec3.lerp([0, 0, 0], at(frame, a), at(frame, b), 0.5);
  for (let frame = 0; frame < observations.frames; frame++) {
    if (!isSeen(observations, frame)) continue;
    const ankles = middle(frame, MARK.leftAnkle, MARK.rightAnkle);
    const knees = middle(frame, MARK.leftKnee, MARK.rightKnee);
    const hips = middle(frame, MARK.leftHip, MARK.rightHip);
    const shoulders = middle(frame, MARK.leftShoulder, MARK.rightShoulder);
    const whole = vec3.distance(ankles, knees) + vec3.distance(knees, hips) + vec3.distance(hips, shoulders);
    const straight = vec3.distance(shoulders, ankles) / whole;
    const line = vec3.subtract([0, 0, 0], hips, ankles);
    const left = vec3.subtract([0, 0, 0], at(frame, MARK.leftHip), at(frame, MARK.rightHip));
    const back = quat.setAxisAngle([0, 0, 0, 1], vec3.normalize(left, left), -AHEAD);
    vec3.transformQuat(line, vec3.normalize(line, line), back);
    lines.push({ line, straight });
  }
  if (lines.length === 0) return [0, 0, 0, 1];
  lines.sort((a, b) => b.straight - a.straight);
  const best = lines.slice(0, Math.max(1, Math.round(lines.length * BEST_SHARE)));
  const median = (axis: number): number =>
    best.map((item) => item.line[axis]).sort((a, b) => a - b)[Math.floor(best.length / 2)];
  const up = vec3.normalize([0, 0, 0], [ROLL_SHARE * median(0), median(1), median(2)]);
  if (up[1] < 0.6) return [0, 0, 0, 1];
  return quat.rotationTo([0, 0, 0, 1], up, [0, 1, 0]);
}
