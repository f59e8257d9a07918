import { z } from 'zod';

/** Fields of every record. */
export const base = {
  id: z.string().min(1).max(80),
  muted: z.boolean().default(false),
};
