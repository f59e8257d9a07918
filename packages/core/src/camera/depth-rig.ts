import { z } from 'zod';

/** A pinhole camera as depth devices tell it: size and principal point in pixels, focal lengths in pixels. Its axes are x right, y down, z along the view. */
export const Intrinsics = z.object({
  width: z.number().int().min(16).max(8192),
  height: z.number().int().min(16).max(8192),
  fx: z.number().positive(),
  fy: z.number().positive(),
  cx: z.number(),
  cy: z.number(),
});
export type Intrinsics = z.infer<typeof Intrinsics>;

/** The two cameras of a depth device, and how they lie to each other. */
export const DepthRig = z.object({
  colour: Intrinsics,
  depth: Intrinsics,
  /** From the depth camera's axes to the colour camera's: a rotation, 9 numbers, row by row. */
  turn: z.array(z.number()).length(9),
  /** Where the depth camera is, in the colour camera's axes, metres. */
  shift: z.array(z.number()).length(3),
});
export type DepthRig = z.infer<typeof DepthRig>;

/** The field of view across the long side of the colour picture, degrees. */
export const colourFieldOfView = ({ colour: { width, height, fx, fy } }: DepthRig): number =>
  (2 * Math.atan(Math.max(width, height) / 2 / (width >= height ? fx : fy)) * 180) / Math.PI;
