import { z } from 'zod';

/** Parts of a body that may leave the picture. */
export const FRAMED_PARTS = ['head', 'hands', 'legs', 'feet'] as const;
export type FramedPart = (typeof FRAMED_PARTS)[number];

const column = z.array(z.number().nullable());

/**
 * What was measured of a clip before it is tracked: a few looks a second, and what the small pictures of all frames tell. Columns have one
 * entry for each look; null where a look tells nothing of it (nobody is seen).
 */
export const Looks = z.object({
  version: z.literal(1),
  width: z.number(),
  height: z.number(),
  /** Frames a second, and frames, of the prepared clip. */
  rate: z.number(),
  frames: z.number().int(),
  /** The frames that were looked at. */
  at: z.array(z.number().int()),
  /** Brightness of the whole picture and of the performer, 0 … 255. */
  light: column,
  bodyLight: column,
  /** Part of the performer that is burnt out to white, 0 … 1. */
  burnt: column,
  /** Noise, standard deviation in grey levels. */
  noise: column,
  /** People in the picture. */
  people: column,
  /** How tall the performer is, crown to sole, pixels. */
  tall: column,
  /** Part of each part's marks that lie outside the picture, 0 … 1. */
  outside: z.object({ head: column, hands: column, legs: column, feet: column }),
  /** How fast hands, feet and hips move since the look before, body heights in a second, the mean. */
  moves: column,
  /** Width of edges at the performer, parts of their height. */
  blur: column,
  /** How unlike limbs are to what is behind them, CIE 1976 colour difference; the median over limbs. */
  contrast: column,
  /** Height of the face, chin to brow, pixels; 0 when it looks away. */
  face: column,
  /** 0 none, 1 T-pose, 2 A-pose. */
  pose: column,
  /** How far the camera moved since the look before, parts of the long side in a second. */
  camera: column,
  /** Frames with which another shot begins. */
  cuts: z.array(z.number().int()),
  /** Part of all frames that show the same as the one before while something moves, 0 … 1; null where it was not told. */
  doubled: z.number().nullable(),
  /** Bits that the original file spends on a pixel of a frame, as H.264 would need them; null where that is not known. */
  bitsPerPixel: z.number().nullable(),
});
export type Looks = z.infer<typeof Looks>;

/** The columns of looks that are single numbers. */
export type LookColumn = {
  [K in keyof Looks]: Looks[K] extends (number | null)[] ? K : never;
}[keyof Looks];

export const emptyLooks = (clip: Pick<Looks, 'width' | 'height' | 'rate' | 'frames'>): Looks => ({
  version: 1,
  ...clip,
  at: [],
  light: [],
  bodyLight: [],
  burnt: [],
  noise: [],
  people: [],
  tall: [],
  outside: { head: [], hands: [], legs: [], feet: [] },
  moves: [],
  blur: [],
  contrast: [],
  face: [],
  pose: [],
  camera: [],
  cuts: [],
  doubled: null,
  bitsPerPixel: null,
});

/** The frames that a look stands for: up to the next one. */
export const spanOfLook = ({ at, frames }: Looks, look: number): [from: number, until: number] => [
  look === 0 ? 0 : at[look],
  at[look + 1] ?? frames,
];
