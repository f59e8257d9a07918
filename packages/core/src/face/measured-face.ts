import type { FaceObservations } from '../observe/face';
import { partIsSeen } from '../observe/unseen';
import { measureFace } from './face-measures';
import { headSpace } from './head-space';
import { neutralFace } from './neutral';

/** A face that was measured in each frame of a take, and at rest; see `FACE_MEASURES`. */
export interface MeasuredFace {
  /** null where it was not seen. */
  measures: (number[] | null)[];
  neutral: number[];
}

/**
 * Measures a face in all frames.
 * @param picked a frame that a person said is neutral; found if left out.
 * @returns null where no face was ever seen.
 */
export function measuredFace(face: FaceObservations, picked?: number): MeasuredFace | null {
  const space = headSpace(face);
  const measures = Array.from(face.presence, (_, frame) =>
    partIsSeen(face, frame) ? measureFace(space, frame) : null,
  );
  const neutral = neutralFace(measures, picked);
  return neutral && { measures, neutral };
}
