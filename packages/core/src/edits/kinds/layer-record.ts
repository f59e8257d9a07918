import { z } from 'zod';
import { applyLayer, layerFrames } from '../../layers/apply-layer';
import { Layer } from '../../layers/layer';
import { joinRuns } from '../../signal/runs';
import { sliceMotion } from '../../signal/slice-motion';
import type { Step, SteppedTake } from '../step';
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
  step: layerStep,
} as const satisfies RecordKind<LayerRecord>;

/** Each frame of a layer is told by that frame alone. */
function layerStep(record: LayerRecord, { frames }: SteppedTake): Step {
  const own = layerFrames(record, [0, frames]);
  return {
    id: record.id,
    key: JSON.stringify(record),
    frames: own,
    needs: (wanted) => wanted,
    affects: (changed) => changed,
    changedFrom: (before) => joinRuns(own, before.frames),
    run: (input, at, wanted) => sliceMotion(applyLayer(input, record, at), wanted[0] - at, wanted[1] - at),
  };
}
