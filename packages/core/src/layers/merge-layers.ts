import { quat } from 'gl-matrix';
import type { Run } from '../signal/runs';
import { offsetAt, rootOffsetAt } from './apply-layer';
import { putKey, ROOT, type Layer, type LayerKey } from './layer';

/** The name of the joint whose turns are told in its own axes: see `LayerKey`. */
const ROOT_JOINT = 'hips';

/** Two layers can be one where both move with the motion below. */
export const canMerge = (below: Pick<Layer, 'mode'>, above: Pick<Layer, 'mode'>): boolean =>
  below.mode === 'offset' && above.mode === 'offset';

/**
 * One layer that does what two do, each at its strength and on its parts: it is keyed where either is, and where they come in and go out, with all that both do there. Between keys it runs as
 * layers do, so it may be off there by a little.
 * @param within frames that may be keyed: those of the clip. @throws Error when one of them stands in the place of the motion below.
 */
export function mergeLayers<L extends Layer>(below: L, above: L, [from, until]: Run): L {
  if (!canMerge(below, above)) throw new Error('Only layers that move with the capture can be merged.');
  const channels = new Set([below, above].flatMap(channelsOf));
  let keys: LayerKey[] = [];
  for (const channel of channels) {
    const inside = (frame: number): number => Math.min(until - 1, Math.max(from, frame));
    for (const frame of new Set([...framesOf(below, channel), ...framesOf(above, channel)].map(inside)))
      keys = putKey(keys, keyOf(below, above, channel, frame));
  }
  return { ...above, strength: 1, ease: 0, hold: true, parts: null, keys };
}

const channelsOf = ({ keys }: Layer): string[] =>
  keys.flatMap(({ turns, root }) => [...Object.keys(turns), ...(root ? [ROOT] : [])]);

/** Frames in which a channel is keyed, and in which it begins and ends to count. */
function framesOf({ keys, ease, hold }: Layer, channel: string): number[] {
  const own = keys.flatMap(({ frame, turns, root }) =>
    (channel === ROOT ? root !== null : channel in turns) ? [frame] : [],
  );
  if (own.length === 0 || hold) return own;
  const half = Math.round(ease / 2);
  const [first, last] = [own[0], own[own.length - 1]];
  return [first - ease - 1, first - half, ...own, last + half, last + ease + 1];
}

function keyOf(below: Layer, above: Layer, channel: string, frame: number): LayerKey {
  if (channel === ROOT) {
    const [a, b] = [below, above].map((layer) => rootOffsetAt(layer, frame));
    return { frame, turns: {}, root: [a[0] + b[0], a[1] + b[1], a[2] + b[2]] };
  }
  const [a, b] = [below, above].map((layer) => offsetAt(layer, channel, frame, quat.create()));
  // In the parent's axes the upper one turns what the lower one has turned; in its own they follow each other.
  const [x, y, z, w] = channel === ROOT_JOINT ? quat.multiply(a, a, b) : quat.multiply(b, b, a);
  return { frame, turns: { [channel]: [x, y, z, w] }, root: null };
}
