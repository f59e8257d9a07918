import {
  FACE_GROUPS,
  FACE_SHAPES,
  groupOfShape,
  shapeCurve,
  type FaceGroup,
} from '@merry-shadow/core/face/face-shapes';
import type { Motion } from '@merry-shadow/core/motion/motion';

/** A row that shows when a group of the face does something, and how strongly. */
export interface FaceRow {
  group: FaceGroup;
  /** The strongest shape of the group in each frame, 0 … 1. */
  strengths: Float32Array;
}

/** The groups of the face that a motion has curves of. Where the eyes look is left out: they always look somewhere. */
export function faceRows({ curves, frames }: Pick<Motion, 'curves' | 'frames'>): FaceRow[] {
  const values = new Map(curves.map((curve) => [curve.name, curve.values]));
  return FACE_GROUPS.flatMap((group) => {
    const own = FACE_SHAPES.filter((shape) => groupOfShape(shape) === group && !shape.startsWith('eyeLook')).flatMap(
      (shape) => values.get(shapeCurve(shape)) ?? [],
    );
    if (own.length === 0) return [];
    const strengths = new Float32Array(frames);
    for (const row of own)
      for (let frame = 0; frame < frames; frame++) strengths[frame] = Math.max(strengths[frame], row[frame]);
    return [{ group, strengths }];
  });
}
