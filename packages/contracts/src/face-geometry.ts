import { z } from 'zod';

/** The average face that the turn of a head is told by; see the core's `FaceGeometry`. */
export const FaceGeometryView = z.object({
  vertices: z.array(z.number()),
  basis: z.array(z.tuple([z.number().int(), z.number()])),
});
