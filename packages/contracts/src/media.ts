import { z } from 'zod';

/** What a clip takes on the disk, bytes. */
export const MediaShare = z.object({
  clipId: z.uuid(),
  name: z.string(),
  production: z.string(),
  /** The file as it was brought in. */
  original: z.number(),
  /** The video that is shown and tracked, with its pictures and sound: can be made again. */
  prepared: z.number(),
  /** What was tracked last of its takes: can be tracked again. */
  tracked: z.number(),
  /** What was tracked before that, and is not used any more. */
  older: z.number(),
});
export type MediaShare = z.infer<typeof MediaShare>;

export const MediaView = z.object({
  /** The data folder. */
  folder: z.string(),
  /** Bytes that are free on its disk, and how many stay so. */
  free: z.number(),
  room: z.number(),
  clips: z.array(MediaShare),
});
export type MediaView = z.infer<typeof MediaView>;

export const MEDIA_PARTS = ['prepared', 'tracked', 'older'] as const;
export type MediaPart = (typeof MEDIA_PARTS)[number];
export const MediaDrop = z.strictObject({ clips: z.array(z.uuid()).min(1).max(5000), part: z.enum(MEDIA_PARTS) });
