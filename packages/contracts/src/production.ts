import { z } from 'zod';
import { ClipView } from './clip';
import { HandShapeView } from './hand-shape';
import { PerformerView, PresetView } from './performer';
import { RunPreview, TakeView } from './take';

/** A production: what its clips and takes belong together for. */
export const ProductionName = z.object({ id: z.uuid(), name: z.string(), putAway: z.boolean() });
export type ProductionName = z.infer<typeof ProductionName>;

export const ProductionChange = z.strictObject({
  name: z.string().trim().min(1, 'A production needs a name.').max(80, 'A name has at most 80 characters.').optional(),
  putAway: z.boolean().optional(),
});

/** Everything that the list views show of a production. */
export const ProductionView = z.object({
  /** The one that is open. */
  id: z.uuid(),
  productions: z.array(ProductionName),
  clips: z.array(ClipView),
  takes: z.array(TakeView),
  performers: z.array(PerformerView),
  presets: z.array(PresetView),
  handShapes: z.array(HandShapeView),
  /** What holds up all work, as a sentence: a full disk. */
  trouble: z.string().nullable().default(null),
});
export type ProductionView = z.infer<typeof ProductionView>;

/** What the server tells by itself: first all, then what changed. */
export const ServerEvent = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('all'), production: ProductionView }),
  z.object({ kind: z.literal('changed'), clips: z.array(ClipView), takes: z.array(TakeView), gone: z.array(z.uuid()) }),
  z.object({
    kind: z.literal('productions'),
    productions: z.array(ProductionName),
    performers: z.array(PerformerView),
    presets: z.array(PresetView),
    handShapes: z.array(HandShapeView),
  }),
  z.object({ kind: z.literal('trouble'), trouble: z.string().nullable() }),
  z.object({ kind: z.literal('preview'), takeId: z.uuid(), preview: RunPreview.nullable() }),
]);
export type ServerEvent = z.infer<typeof ServerEvent>;

/** Every refused request answers with this. */
export const ErrorView = z.object({ error: z.object({ code: z.string(), message: z.string() }) });
export type ErrorView = z.infer<typeof ErrorView>;
