/**
 * What the tracker saw of a face: 468 marks in the published topology of the face network, then five
 * for each iris (its middle and four on its edge): 468 … 472 the performer's right eye, 473 … 477 the left.
 */
export const FACE_MARK_COUNT = 478;
export const RIGHT_IRIS = 468;
export const LEFT_IRIS = 473;

/** Columns of all frames. A frame in which the face was not seen has presence 0 and NaN marks. */
export interface FaceObservations {
  /** frames × 478 × 3: x, y pixels of the upright picture, z in the same unit, less towards the camera. */
  readonly marks: Float32Array;
  /** frames × 4: turn of the head against the camera (x, y, z, w), in the camera's axes; no turn faces the camera. */
  readonly turn: Float32Array;
  /** frames, 0 … 1. */
  readonly presence: Float32Array;
}

export function emptyFaceObservations(frames: number): FaceObservations {
  return {
    marks: new Float32Array(frames * FACE_MARK_COUNT * 3).fill(NaN),
    turn: new Float32Array(frames * 4).fill(NaN),
    presence: new Float32Array(frames),
  };
}
