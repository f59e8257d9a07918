import type { LayerRecord } from '@merry-shadow/core/edits/kinds/layer-record';
import type { TakeEdits } from '@merry-shadow/core/edits/take-edits';

/** The edits with a layer moved among the layers: up (1, evaluated later) or down (−1). */
export function withMovedLayer(edits: TakeEdits, id: string, by: 1 | -1): TakeEdits {
  const layers = edits.records.filter(({ kind }) => kind === 'layer');
  const at = layers.findIndex((layer) => layer.id === id);
  const to = at + by;
  if (at < 0 || to < 0 || to >= layers.length) return edits;
  [layers[at], layers[to]] = [layers[to], layers[at]];
  return { ...edits, records: [...edits.records.filter(({ kind }) => kind !== 'layer'), ...layers] };
}

/** The frame of the next key after or before a frame; round the ends. null without keys. */
export function nextKey({ keys }: LayerRecord, frame: number, by: 1 | -1): number | null {
  const frames = keys.map((key) => key.frame).sort((a, b) => (a - b) * by);
  return frames.find((at) => (at - frame) * by > 0) ?? frames[0] ?? null;
}
