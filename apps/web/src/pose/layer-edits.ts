import type { LayerRecord } from '@merry-shadow/core/edits/kinds/layer-record';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import { withoutRecords, withRecord, type TakeEdits } from '@merry-shadow/core/edits/take-edits';
import type { Run } from '@merry-shadow/core/signal/runs';
import { canMerge, mergeLayers } from '@merry-shadow/core/layers/merge-layers';

/** The edits with a layer moved among the layers: up (1, evaluated later) or down (−1). */
export function withMovedLayer(edits: TakeEdits, id: string, by: 1 | -1): TakeEdits {
  const layers = edits.records.filter(({ kind }) => kind === 'layer');
  const at = layers.findIndex((layer) => layer.id === id);
  const to = at + by;
  if (at < 0 || to < 0 || to >= layers.length) return edits;
  [layers[at], layers[to]] = [layers[to], layers[at]];
  return { ...edits, records: [...edits.records.filter(({ kind }) => kind !== 'layer'), ...layers] };
}

/** Whether two layers can be made one: both move with the capture, and both are used or left out. */
export const isMergeable = (below: LayerRecord, above: LayerRecord): boolean =>
  below.muted === above.muted && canMerge(below, above);

/** The edits with a layer and the one below it as one, in the place of the upper one. Nothing is changed where there is none below, or one is left out or stands in the place of the capture. @param within frames that may be keyed. */
export function withMergedLayer(edits: TakeEdits, id: string, within: Run): TakeEdits {
  const layers = recordsOf(edits.records, 'layer');
  const at = layers.findIndex((layer) => layer.id === id);
  const [below, above] = [layers[at - 1], layers[at]];
  if (at < 1 || !isMergeable(below, above)) return edits;
  return withRecord(
    withoutRecords(edits, (record) => record.id === below.id),
    mergeLayers(below, above, within),
  );
}

/** The frame of the next key after or before a frame; round the ends. null without keys. */
export function nextKey({ keys }: LayerRecord, frame: number, by: 1 | -1): number | null {
  const frames = keys.map((key) => key.frame).sort((a, b) => (a - b) * by);
  return frames.find((at) => (at - frame) * by > 0) ?? frames[0] ?? null;
}
