import { z } from 'zod';
import { DepthRig } from '@merry-shadow/core/camera/depth-rig';

/**
 * What passes between Merry Shadow and a bridge: a small program that brings what a depth camera sees (docs/depth-cameras.md).
 * Bridges connect to Merry Shadow's socket for depth cameras and say hello; frames are wanted while somebody looks.
 */

/** A bridge says which camera it brings, as its first message. */
export const BridgeHello = z.object({
  type: z.literal('hello'),
  version: z.literal(1),
  name: z.string().trim().min(1).max(80),
  rig: DepthRig,
  /** Frames a second that the cameras give at best. */
  colourRate: z.number().min(1).max(240),
  depthRate: z.number().min(1).max(240),
  /** How colour comes: JPEG pictures, or bare pixels of three bytes. */
  colourFormat: z.enum(['jpeg', 'rgb24']),
  /** Both cameras tell their times by one clock. */
  oneClock: z.boolean(),
});
export type BridgeHello = z.infer<typeof BridgeHello>;

/** One picture, or one map of 16-bit millimetres (little-endian, row by row, 0: nothing told), with the device's own time of it, seconds. Its bytes follow the head. */
export const BridgeFrame = z.object({ type: z.enum(['colour', 'depth']), time: z.number() });
export type BridgeFrame = z.infer<typeof BridgeFrame>;

/** What Merry Shadow tells a bridge. */
export const BridgeOrder = z.discriminatedUnion('type', [
  z.object({ type: z.literal('stream'), on: z.boolean() }),
  z.object({ type: z.literal('refused'), reason: z.string() }),
]);
export type BridgeOrder = z.infer<typeof BridgeOrder>;

/** A depth camera that is there. */
export interface DepthCameraView extends Pick<
  BridgeHello,
  'name' | 'rig' | 'colourRate' | 'depthRate' | 'colourFormat'
> {
  id: string;
  /** Something records from it. */
  recording: boolean;
}

/** The depth cameras that are there, and where bridges connect: null where the socket could not be opened. */
export interface DepthCameraList {
  port: number | null;
  cameras: DepthCameraView[];
}

/** How far a recording is, told between the frames that are watched. */
export const RecordingNews = z.object({
  type: z.literal('recording'),
  id: z.uuid(),
  /** Seconds by the computer's clock, and frames of each kind so far. */
  seconds: z.number(),
  colour: z.number(),
  depth: z.number(),
  over: z.boolean(),
  /** Why it ended before its time; empty where it did not. */
  problem: z.string(),
});
export type RecordingNews = z.infer<typeof RecordingNews>;

/** What is watched of a camera: its frames, and how far a recording is. */
export const WatchedHead = z.union([BridgeFrame, RecordingNews]);

/** From here a recording from a depth camera begins. */
export const DepthRecordingBegin = z.strictObject({
  production: z.uuid(),
  name: z.string().trim().min(1).max(120),
  /** It ends by itself after so many seconds; 0 for never. */
  seconds: z.number().min(0).max(3600),
});
