import { z } from 'zod';
import { ClipView } from './clip';
import { TakeView } from './take';

/** Everything that the list views show. */
export const ProductionView = z.object({
  clips: z.array(ClipView),
  takes: z.array(TakeView),
  /** What holds up all work, as a sentence: a full disk. */
  trouble: z.string().nullable().default(null),
});
export type ProductionView = z.infer<typeof ProductionView>;

/** Every refused request answers with this. */
export const ErrorView = z.object({ error: z.object({ code: z.string(), message: z.string() }) });
export type ErrorView = z.infer<typeof ErrorView>;
