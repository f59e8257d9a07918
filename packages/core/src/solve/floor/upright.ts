import { quat, vec3 } from 'gl-matrix';
import { isSeen, MARK, MARK_COUNT, type BodyObservations } from '../../observe/body';

/** Share of the frames, those with the straightest legs, that are believed. */
const BEST_SHARE = 0.4;
/**
 * How far the hips stand ahead of the ankles in a body that stands upright, radians: the line of gravity
 * passes some 5 cm before the ankle joint and close behind the hip joint (D. A. Winter, "Human balance and
 * posture control during standing and walking", Gait & Posture 3, 1995).
 */
const AHEAD = 0.055;

/** Which pitch and roll cameras have that film people: mean and standard deviation, radians. */
const PITCH = { mean: 0.14, sigma: 0.3 };
const ROLL = { mean: 0, sigma: 0.15 };
/** How far lines spread that tell the same, radians, and which share of all must, to be believed more than what cameras mostly have. */
const SPREAD = 0.14;
const LEAST_SHARE = 0.05;
const ROUNDS = 20;

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
  const pitch = mostLikely(
    best.map(({ line: [, y, z] }) => Math.atan2(z, y)),
    PITCH,
  );
  const roll =
    ROLL_SHARE *
    mostLikely(
      best.map(({ line: [x, y] }) => Math.atan2(x, y)),
      ROLL,
    );
  return quat.rotationTo(
    [0, 0, 0, 1],
    vec3.normalize([0, 0, 0], [Math.tan(roll), Math.cos(pitch), Math.sin(pitch)]),
    [0, 1, 0],
  );
}

/**
 * Where most of some angles agree, among those that cameras may have: means in which what lies far off counts less and less (squared
 * Cauchy weights), from several starts, so that who lies on the floor for most of a take doesn't tell which way is up.
 */
function mostLikely(angles: readonly number[], { mean, sigma }: { mean: number; sigma: number }): number {
  const near = (angle: number, centre: number): number => 1 / (1 + ((angle - centre) / SPREAD) ** 2);
  const sorted = [...angles].sort((a, b) => a - b);
  const starts = [mean, ...[0.25, 0.5, 0.75].map((share) => sorted[Math.floor(share * sorted.length)])];
  let [best, most] = [mean, LEAST_SHARE];
  for (let centre of starts) {
    for (let round = 0; round < ROUNDS; round++) {
      const weights = angles.map((angle) => near(angle, centre) ** 2);
      const whole = weights.reduce((sum, weight) => sum + weight, 0);
      centre = angles.reduce((sum, angle, i) => sum + weights[i] * angle, 0) / whole;
    }
    const agree = angles.reduce((sum, angle) => sum + near(angle, centre), 0) / angles.length;
    const score = agree * Math.exp(-0.5 * ((centre - mean) / sigma) ** 2);
    if (score > most) [best, most] = [centre, score];
  }
  return best;
}
