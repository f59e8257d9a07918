import { z } from 'zod';
import { applyLayer, layerFrames } from '../../layers/apply-layer';
import { Layer } from '../../layers/layer';
import { perFrameStep } from '../step';
import { base } from './base';
import type { RecordKind } from './record-kind';

/** Corrections by hand as keys. Layers come after all passes, in the order of the document. */
export const LayerRecord = Layer.extend({ ...base, kind: z.literal('layer') });
export type LayerRecord = z.infer<typeof LayerRecord>;

export const layerKind = {
  kind: 'layer',
  schema: LayerRecord,
  span: ({ keys }) => (keys.length > 0 ? [keys[0].frame, keys[keys.length - 1].frame + 1] : null),
  shift: (record, by) => ({ ...record, keys: record.keys.map((key) => ({ ...key, frame: key.frame + by })) }),
  words: ({ name }) => `the layer "${name}"`,
  stage: 2,
  step: (record, { frames }) =>
    perFrameStep(record, layerFrames(record, [0, frames]), (input, at) => applyLayer(input, record, at)),
} as const satisfies RecordKind<LayerRecord>;
