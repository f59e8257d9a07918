import { quat, vec3 } from 'gl-matrix';
import '../motion/double-precision';
import { alignPoints } from '../motion/align-points';
import { FACE_MARK_COUNT, type FaceObservations } from '../observe/face';
import { partIsSeen } from '../observe/unseen';

/**
 * A face's marks in the head's own axes: +X to the performer's left, +Y up, +Z ahead, from the middle between the outer corners of the eyes, in lengths
 * between these. So neither where the head is nor how it is turned shows in them.
 */
export interface HeadSpace {
  /** frames × 478 × 3; NaN where no face was seen. */
  readonly marks: Float32Array;
  /** frames × 2: yaw to the performer's left and pitch downwards against the view, radians; NaN where no face was seen. */
  readonly view: Float32Array;
}

/** Marks that keep their place on the skull whatever the face does: corners of the eyes, bridge and tip of the nose, forehead, temples. */
const SKULL = [33, 133, 362, 263, 168, 6, 197, 195, 4, 10, 151, 127, 356, 234, 454, 93, 323];
const RIGHT_CORNER = 33;
const LEFT_CORNER = 263;
const ROUNDS = 2;

/**
 * Brings all frames of a face into the head's axes: each is laid over the mean of all by the marks of the skull (`alignPoints`), twice, so that
 * the performer's own skull is what it is laid over.
 */
export function headSpace(face: FaceObservations): HeadSpace {
  const frames = face.presence.length;
  const marks = new Float32Array(frames * FACE_MARK_COUNT * 3).fill(NaN);
  const view = new Float32Array(frames * 2).fill(NaN);
  const seen = Array.from({ length: frames }, (_, frame) => frame).filter((frame) => partIsSeen(face, frame));
  if (seen.length === 0) return { marks, view };
  let skull = meanSkull(face, seen);
  for (let round = 0; round < ROUNDS; round++) {
    const next = new Float64Array(SKULL.length * 3);
    for (const frame of seen) {
      const turned = layOver(face, frame, skull, marks);
      view.set(turned, frame * 2);
      SKULL.forEach((mark, i) => {
        for (let k = 0; k < 3; k++) next[i * 3 + k] += marks[(frame * FACE_MARK_COUNT + mark) * 3 + k] / seen.length;
      });
    }
    skull = next;
  }
  return { marks, view };
}

/** A mark of a frame with +Y up and +Z to the camera, pixels. */
function point({ marks }: FaceObservations, frame: number, mark: number): [number, number, number] {
  const at = (frame * FACE_MARK_COUNT + mark) * 3;
  return [marks[at], -marks[at + 1], -marks[at + 2]];
}

/** The skull's marks in the head's axes as the head's turn alone tells them, meaned over all frames. */
function meanSkull(face: FaceObservations, seen: readonly number[]): Float64Array {
  const sum = new Float64Array(SKULL.length * 3);
  for (const frame of seen) {
    const turn = Array.from(face.turn.subarray(frame * 4, frame * 4 + 4)) as quat;
    const back = quat.conjugate([0, 0, 0, 1], turn);
    const [a, b] = [RIGHT_CORNER, LEFT_CORNER].map((mark) => point(face, frame, mark));
    const size = Math.hypot(...a.map((value, k) => b[k] - value));
    SKULL.forEach((mark, i) => {
      const place = point(face, frame, mark).map((value, k) => (value - (a[k] + b[k]) / 2) / size);
      const local = vec3.transformQuat([0, 0, 0], place as vec3, back);
      for (let k = 0; k < 3; k++) sum[i * 3 + k] += local[k] / seen.length;
    });
  }
  return sum;
}

/** Lays a frame over a skull and writes its marks. @returns yaw and pitch of the head against the view. */
function layOver(face: FaceObservations, frame: number, skull: Float64Array, out: Float32Array): [number, number] {
  const from = SKULL.flatMap((mark) => point(face, frame, mark));
  const { scale, rotation, shift } = alignPoints(from, skull, true);
  for (let mark = 0; mark < FACE_MARK_COUNT; mark++) {
    const place = point(face, frame, mark);
    for (let k = 0; k < 3; k++)
      out[(frame * FACE_MARK_COUNT + mark) * 3 + k] =
        scale * (rotation[k * 3] * place[0] + rotation[k * 3 + 1] * place[1] + rotation[k * 3 + 2] * place[2]) +
        shift[k];
  }
  // The head's own +Z in the view: the last row of the turn that takes the view to the head.
  const [x, y, z] = [rotation[6], rotation[7], rotation[8]];
  return [Math.atan2(x, z), Math.atan2(-y, Math.hypot(x, z))];
}
