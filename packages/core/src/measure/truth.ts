import { z } from 'zod';
import { FACE_SHAPES } from '../face/face-shapes';

/**
 * The truth file that lies beside made-up footage (`NAME.truth.json`; `NAME.PERFORMER.truth.json`
 * when there are several performers). World space, metres, +Y up, floor at y = 0.
 */
const flags = z.array(z.union([z.literal(0), z.literal(1)]));
export const Truth = z.object({
  format: z.literal('merry-shadow truth'),
  version: z.literal(1),
  clip: z.string(),
  performer: z.string(),
  rate: z.number().positive(),
  frames: z.number().int().positive(),
  height: z.number().positive(),
  camera: z.object({
    position: z.tuple([z.number(), z.number(), z.number()]),
    axes: z.array(z.number()).length(9),
    focal: z.number().positive(),
    width: z.number().positive(),
    height: z.number().positive(),
  }),
  /** Where a camera that moves is in each frame: its place, and its axes (right, up, back). `camera` is then the first. */
  cameraPath: z.array(z.array(z.number()).length(12)).optional(),
  joints: z.array(z.string()),
  parents: z.array(z.number().int()),
  /** frames of joints × 3, metres. */
  positions: z.array(z.array(z.number())),
  /** frames of joints × 4: local rotations. */
  rotations: z.array(z.array(z.number())),
  /** 1 where the part is on the floor and still. */
  contacts: z.object({ leftHeel: flags, leftToe: flags, rightHeel: flags, rightToe: flags }),
  /** 0 closed … 1 open. */
  mouth: z.array(z.number()),
  /** 0 open … 1 closed. */
  eyelids: z.array(z.number()),
  /** Strength of the face's shapes, 0 … 1 in each frame; those that are never made are left out. */
  face: z.partialRecord(z.enum(FACE_SHAPES), z.array(z.number())).optional(),
  /** Where the eyes look against the head in each frame, radians: to the performer's left, and up. */
  gaze: z.array(z.tuple([z.number(), z.number()])).optional(),
});
export type Truth = z.infer<typeof Truth>;

/**
 * Reads a truth file.
 * @throws Error that says what is wrong when the text is not one.
 */
export function readTruth(text: string): Truth {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    throw new Error('The truth file is not valid JSON.');
  }
  const result = Truth.safeParse(data);
  if (!result.success) {
    const issue = result.error.issues[0];
    throw new Error(`The truth file can't be used: ${issue.path.join('.') || 'file'}: ${issue.message}`);
  }
  const truth = result.data;
  if (
    truth.positions.length !== truth.frames ||
    truth.positions.some((row) => row.length !== truth.joints.length * 3)
  ) {
    throw new Error(
      `The truth file can't be used: positions must hold ${truth.frames} frames of ${truth.joints.length} joints.`,
    );
  }
  return truth;
}
