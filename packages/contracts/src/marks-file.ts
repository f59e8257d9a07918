import { z } from 'zod';
import { CAMERA_MOTION_WIDTH } from '@merry-shadow/core/camera/camera-motion';
import { isSeen, MARK_COUNT, MARK_NAMES } from '@merry-shadow/core/observe/body';
import { FACE_MARK_COUNT } from '@merry-shadow/core/observe/face';
import { HAND_MARK_COUNT } from '@merry-shadow/core/observe/hands';
import type { Observations } from '@merry-shadow/core/observe/observations';

/** `NAME.marks.json`: what the tracker saw, frame by frame, for other programs to read. */
const Point2 = z.object({ x: z.number(), y: z.number(), visibility: z.number().min(0).max(1) });
const Point3 = z.object({ x: z.number(), y: z.number(), z: z.number() });
const Hand = z.object({
  presence: z.number(),
  marks: z.array(z.object({ x: z.number(), y: z.number() })).length(HAND_MARK_COUNT),
  world: z.array(Point3).length(HAND_MARK_COUNT),
});
/** `turn`: the head against the camera, (x, y, z, w). */
const Face = z.object({
  presence: z.number(),
  turn: z.array(z.number()).length(4),
  marks: z.array(Point3).length(FACE_MARK_COUNT),
});
export const MarksFile = z.object({
  format: z.literal('merry-shadow marks'),
  version: z.literal(1),
  clip: z.string(),
  /** Frames in a second. */
  rate: z.number().positive(),
  width: z.number().int().positive(),
  height: z.number().int().positive(),
  /** Names of the 33 marks, in order. */
  names: z.array(z.string()).length(MARK_COUNT),
  frames: z.array(
    z.object({
      frame: z.number().int().min(0),
      /** 0 … 1; marks are null where nobody was seen. */
      presence: z.number(),
      /** Pixels of the upright picture, origin top left. */
      marks: z.array(Point2).length(MARK_COUNT).nullable(),
      /** Metres round the middle of the hips; +X right in the picture, +Y up, +Z to the camera. */
      world: z.array(Point3).length(MARK_COUNT).nullable(),
      /** Where a depth camera was there: how far along its axis the surface before each mark lies, metres; null where it told nothing. */
      depth: z.array(z.number().nullable()).length(MARK_COUNT).optional(),
      /** How the camera moved since the frame before: the middle of the picture (pixels right and down), its turn (radians, clockwise), the logarithm of its growth. Left out where all are 0 or nothing told them. */
      cameraMotion: z.array(z.number()).length(CAMERA_MOTION_WIDTH).optional(),
      /** The picture does not go on from the one before: another shot begins. Left out elsewhere. */
      cut: z.literal(true).optional(),
      /** The picture shows no moment of its own: doubled, a still, or amid a fade. Left out elsewhere. */
      skipped: z.literal(true).optional(),
      /** Left out when not asked for, null where not seen. */
      leftHand: Hand.nullable().optional(),
      rightHand: Hand.nullable().optional(),
      face: Face.nullable().optional(),
    }),
  ),
});
export type MarksFile = z.infer<typeof MarksFile>;
type Frame = MarksFile['frames'][number];

const round = (value: number, digits: number): number => Math.round(value * 10 ** digits) / 10 ** digits;

/** Points of `width` numbers each, as objects. */
function points<K extends string>(
  data: Float32Array,
  from: number,
  count: number,
  names: readonly K[],
  digits: number,
): Record<K, number>[] {
  return Array.from(
    { length: count },
    (_, i) =>
      Object.fromEntries(names.map((name, k) => [name, round(data[from + i * names.length + k], digits)])) as Record<
        K,
        number
      >,
  );
}

function frameOf(observations: Observations, frame: number): Frame {
  const { marks, world, presence, cameraMotion, hands, face, depth } = observations;
  const at = frame * MARK_COUNT * 3;
  const seen = isSeen(observations, frame);
  const out: Frame = {
    frame,
    presence: round(presence[frame], 4),
    marks: seen ? points(marks, at, MARK_COUNT, ['x', 'y', 'visibility'], 4) : null,
    world: seen ? points(world, at, MARK_COUNT, ['x', 'y', 'z'], 5) : null,
  };
  if (depth && seen)
    out.depth = Array.from(depth.subarray(frame * MARK_COUNT, (frame + 1) * MARK_COUNT), (value) =>
      Number.isFinite(value) ? round(value, 4) : null,
    );
  const moved = Array.from(
    cameraMotion.subarray(frame * CAMERA_MOTION_WIDTH, (frame + 1) * CAMERA_MOTION_WIDTH),
    (value) => round(value, 5),
  );
  if (moved.every(Number.isFinite) && moved.some((value) => value !== 0)) out.cameraMotion = moved;
  if (observations.cut[frame]) out.cut = true;
  if (observations.skipped[frame]) out.skipped = true;
  for (const side of ['left', 'right'] as const) {
    const hand = hands?.[side];
    if (!hand) continue;
    out[`${side}Hand`] =
      hand.presence[frame] > 0
        ? {
            presence: round(hand.presence[frame], 4),
            marks: points(hand.marks, frame * HAND_MARK_COUNT * 2, HAND_MARK_COUNT, ['x', 'y'], 3),
            world: points(hand.world, frame * HAND_MARK_COUNT * 3, HAND_MARK_COUNT, ['x', 'y', 'z'], 5),
          }
        : null;
  }
  if (face) {
    out.face =
      face.presence[frame] > 0
        ? {
            presence: round(face.presence[frame], 4),
            turn: Array.from(face.turn.subarray(frame * 4, frame * 4 + 4), (value) => round(value, 5)),
            marks: points(face.marks, frame * FACE_MARK_COUNT * 3, FACE_MARK_COUNT, ['x', 'y', 'z'], 2),
          }
        : null;
  }
  return out;
}

/** The file's text in parts, frame by frame: a long take with its face is larger than a string may be. */
export function* marksFileText(clip: string, observations: Observations): Generator<string> {
  const { frames, rate, width, height } = observations;
  const head = JSON.stringify({
    format: 'merry-shadow marks',
    version: 1,
    clip,
    rate,
    width,
    height,
    names: MARK_NAMES,
  });
  yield `${head.slice(0, -1)},"frames":[`;
  for (let frame = 0; frame < frames; frame++)
    yield (frame > 0 ? ',\n' : '\n') + JSON.stringify(frameOf(observations, frame));
  yield '\n]}\n';
}
