import { z } from 'zod';

/** What is known of a prepared clip; sizes are those of the upright original. */
export const ClipFacts = z.object({
  width: z.number().int().positive(),
  height: z.number().int().positive(),
  /** Frames in a second of the prepared clip. */
  rate: z.number().positive(),
  seconds: z.number().positive(),
  frames: z.number().int().positive(),
  codec: z.string(),
  hasSound: z.boolean(),
  rotation: z.number(),
  /** Across the long side of the picture, degrees, where the file tells it. */
  fieldOfView: z.number().nullable().default(null),
  /** A depth camera's millimetres lie in the same file. */
  hasDepth: z.boolean().default(false),
  bytes: z.number().int().nonnegative(),
  /** Frames that the file announces but does not hold: it was cut off. */
  missingFrames: z.number().int().nonnegative().default(0),
});
export type ClipFacts = z.infer<typeof ClipFacts>;

export const ClipState = z.enum(['waiting', 'preparing', 'ready', 'failed']);

/** Somebody seen in a frame; pixels of the prepared picture. */
export const SeenPerson = z.object({
  score: z.number(),
  x: z.number(),
  y: z.number(),
  left: z.number(),
  top: z.number(),
  size: z.number(),
});
export type SeenPerson = z.infer<typeof SeenPerson>;
export const SeenPeople = z.object({
  frame: z.number().int(),
  width: z.number(),
  height: z.number(),
  people: z.array(SeenPerson),
});
export type SeenPeople = z.infer<typeof SeenPeople>;

/** What will cost quality, in short. */
export const JudgedSummary = z.object({
  /** How many things, and how bad the worst is, 0 … 1. */
  count: z.number().int(),
  severity: z.number(),
  /** The worst in a sentence; null for nothing. */
  worst: z.string().nullable(),
});
export type JudgedSummary = z.infer<typeof JudgedSummary>;

export const ClipChange = z.strictObject({
  name: z.string().trim().min(1, 'A clip needs a name.').max(120, 'A name has at most 120 characters.').optional(),
  tags: z.array(z.string().trim().min(1).max(40)).max(20).optional(),
  notes: z.string().max(4000).optional(),
});
export type ClipChange = z.input<typeof ClipChange>;

export const ClipView = z.object({
  id: z.uuid(),
  name: z.string(),
  state: ClipState,
  problem: z.string().nullable(),
  progress: z.number().min(0).max(1),
  facts: ClipFacts.nullable(),
  tags: z.array(z.string()),
  notes: z.string(),
  /** null until it was looked at. */
  judged: JudgedSummary.nullable(),
  /** Clips that were recorded at the same time, as their sound tells: when each begins, seconds of this one. */
  together: z.array(z.object({ clipId: z.uuid(), offset: z.number() })),
  /** Tells contents apart: the same file brought in twice has one. */
  hash: z.string(),
});
export type ClipView = z.infer<typeof ClipView>;
