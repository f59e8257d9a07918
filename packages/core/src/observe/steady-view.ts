import { mat3, quat, vec3 } from 'gl-matrix';
import { rotation, CAMERA_MOTION_WIDTH, cameraMotionFocal } from '../camera/camera-motion';
import { FACE_MARK_COUNT } from './face';
import { HAND_MARK_COUNT } from './hands';
import { MARK_COUNT, type BodyObservations } from './body';
import type { Observations } from './observations';

/** A camera that strays less than this over a whole take stood still: what strays is measuring, parts of the picture's long side. */
const STOOD = 0.0015;

/** What a camera that moved has turned at least, radians. */
const LEAST_TURN = 1e-6;

/** How far a camera has turned in a frame against its mean direction over the take, and how much larger it shows things. */
export interface CameraTurn {
  /** Directions seen in the frame as directions seen by the mean camera: column-major, x right, y down, z ahead. */
  back: mat3;
  growth: number;
}

type Writable<T> = { -readonly [K in keyof T]: T[K] };
type Footage = BodyObservations & Partial<Pick<Observations, 'hands' | 'face'>>;

/**
 * How the camera was turned frame by frame, from how the picture's background moved.
 * @param focal the camera's focal length, pixels.
 * @returns null where it stood still or nothing is known of it.
 */
export function cameraTurns(
  { frames, width, height, cameraMotion }: BodyObservations,
  focal: number,
): CameraTurn[] | null {
  if (!cameraMotion) return null;
  const told = cameraMotionFocal(width, height);
  const gain = focusGain(told, focal, width, height);
  const course: { turn: mat3; growth: number }[] = [];
  let turn: mat3 = mat3.create();
  let growth = 0;
  for (let frame = 0; frame < frames; frame++) {
    const [right, down, round, grown] = cameraMotion.subarray(
      frame * CAMERA_MOTION_WIDTH,
      (frame + 1) * CAMERA_MOTION_WIDTH,
    );
    if (frame > 0 && Number.isFinite(right + down + round + grown)) {
      turn = mat3.multiply(mat3.create(), rotation((right * gain) / focal, (down * gain) / focal, round), turn);
      growth += grown;
    }
    course.push({ turn, growth });
  }
  const middle = meanTurn(course.map((one) => one.turn));
  const size = course.reduce((sum, one) => sum + one.growth, 0) / frames;
  const turns = course.map((one) => ({
    back: mat3.multiply(mat3.create(), middle, mat3.transpose(mat3.create(), one.turn)),
    growth: Math.exp(one.growth - size),
  }));
  const most = turns.reduce(
    (far, { back, growth: grown }) => Math.max(far, farthest(back), Math.abs(grown - 1) / 2),
    0,
  );
  return (most * focal) / Math.max(width, height) < STOOD ? null : turns;
}

/** The share of frames in which nothing in the picture told whether the camera moved, 0 … 1. */
export function untoldShare({ frames, cameraMotion }: Pick<BodyObservations, 'frames' | 'cameraMotion'>): number {
  if (!cameraMotion) return 1;
  let untold = 0;
  for (let frame = 0; frame < frames; frame++) if (Number.isNaN(cameraMotion[frame * CAMERA_MOTION_WIDTH])) untold++;
  return untold / Math.max(1, frames);
}

/** The farthest that a camera turned from its mean direction, radians; 0 for one that stood still. */
export function widestTurn(turns: readonly CameraTurn[] | null): number {
  if (!turns) return 0;
  // A lens that only zoomed has moved, too.
  return turns.reduce(
    (most, { back }) => Math.max(most, Math.acos(Math.min(1, (back[0] + back[4] + back[8] - 1) / 2))),
    LEAST_TURN,
  );
}

/** How far a rotation moves the middle or, by turning, the border of a picture, in focal lengths. */
const farthest = (back: mat3): number => Math.max(Math.hypot(back[6], back[7]), Math.abs(back[1] - back[3]) / 4);

/**
 * A camera motion is told with a focal length that may not be the camera's. The registration fitted x · (1 + x²/told²) where the
 * picture moved by x · (1 + x²/focal²); over an evenly textured picture the fit comes out larger by this much.
 */
function focusGain(told: number, focal: number, width: number, height: number): number {
  const spread = (width ** 2 + height ** 2) / 24;
  return (1 + spread / told ** 2) / (1 + spread / focal ** 2);
}

/** The mean of rotations that differ little: of their quaternions, made one of length 1 again. */
function meanTurn(turns: readonly mat3[]): mat3 {
  const mean: quat = [0, 0, 0, 0];
  for (const turn of turns) {
    const q = quat.fromMat3([0, 0, 0, 1], turn);
    quat.add(mean, mean, q[3] < 0 ? quat.scale(q, q, -1) : q);
  }
  return mat3.fromQuat(mat3.create(), quat.normalize([0, 0, 0, 1], mean));
}

/**
 * The observations as a camera would have made them that stood still, looking where the real one looked on average:
 * marks are moved as its turns moved them, points in the camera's axes are turned along. A camera that is carried
 * about shows the near and the far moving differently; what it travels stays in the performer's path.
 * @param turns see `cameraTurns`; the observations are given back as they are where there are none.
 * @param focal the camera's focal length, pixels.
 */
export function withSteadyView<T extends Footage>(
  observations: T,
  turns: readonly CameraTurn[] | null,
  focal: number,
): T {
  if (!turns) return observations;
  const { width, height, hands, face } = observations;
  const centre: readonly [number, number] = [width / 2, height / 2];
  const marks = (values: Float32Array, count: number, stride: number): Float32Array =>
    turned(values, count, stride, turns, (point, { back, growth }) => {
      const ray: vec3 = [(point[0] - centre[0]) / (focal * growth), (point[1] - centre[1]) / (focal * growth), 1];
      vec3.transformMat3(ray, ray, back);
      point[0] = centre[0] + (ray[0] / ray[2]) * focal;
      point[1] = centre[1] + (ray[1] / ray[2]) * focal;
    });
  const points = (values: Float32Array, count: number): Float32Array =>
    turned(values, count, 3, turns, (point, { back }) => {
      // Points have y up and z to the camera.
      const ray = vec3.transformMat3([0, 0, 0], [point[0], -point[1], -point[2]], back);
      point.set([ray[0], -ray[1], -ray[2]]);
    });
  const out: Writable<T> = {
    ...observations,
    marks: marks(observations.marks, MARK_COUNT, 3),
    world: points(observations.world, MARK_COUNT),
  };
  if (observations.depth) {
    const depth = observations.depth.slice();
    turns.forEach(({ back, growth }, frame) => {
      for (let i = 0; i < MARK_COUNT; i++) {
        const at = frame * MARK_COUNT + i;
        const [x, y] = [observations.marks[at * 3] - centre[0], observations.marks[at * 3 + 1] - centre[1]];
        // How much of the ray to the mark, one metre along the camera's axis, lies along the steady camera's.
        depth[at] *= (back[2] * x + back[5] * y) / (focal * growth) + back[8];
      }
    });
    out.depth = depth;
  }
  if (hands) {
    const hand = (side: 'left' | 'right'): (typeof hands)['left'] => ({
      ...hands[side],
      marks: marks(hands[side].marks, HAND_MARK_COUNT, 2),
      world: points(hands[side].world, HAND_MARK_COUNT),
    });
    out.hands = { left: hand('left'), right: hand('right') };
  }
  if (face) {
    const turn = face.turn.slice();
    turns.forEach(({ back }, frame) => {
      const at = frame * 4;
      // The same turn with y up and z to the camera: a half turn about x to either side.
      const q = quat.fromMat3([0, 0, 0, 1], back);
      const now = quat.multiply([0, 0, 0, 1], [q[0], -q[1], -q[2], q[3]], turn.subarray(at, at + 4) as unknown as quat);
      turn.set(now, at);
    });
    out.face = { ...face, marks: marks(face.marks, FACE_MARK_COUNT, 3), turn };
  }
  return out;
}

/** A copy of points with each one changed by the turn of its frame. */
function turned(
  values: Float32Array,
  count: number,
  stride: number,
  turns: readonly CameraTurn[],
  change: (point: Float32Array, turn: CameraTurn) => void,
): Float32Array {
  const out = values.slice();
  turns.forEach((turn, frame) => {
    for (let i = 0; i < count; i++) {
      const at = (frame * count + i) * stride;
      if (Number.isFinite(out[at])) change(out.subarray(at, at + stride), turn);
    }
  });
  return out;
}
