import { quat } from 'gl-matrix';
import { readRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { offsetAt, rootOffsetAt } from './apply-layer';
import { putKey, reachesChannel, ROOT, type Layer, type LayerKey } from './layer';

/** Quaternions whose numbers differ by less than this turn alike. */
const SAME_TURN = 1e-6;
/** Metres. */
const SAME_PLACE = 1e-6;

/**
 * Keys a layer so that a frame comes to stand as it was posed. Only what was moved gets a key. Where other layers lie above, it is as exact as these are small.
 * @param shown the frame as it is with this layer, and @param posed as it shall be; motions of one frame of the same skeleton.
 * @param frame which frame of the take that is. @throws Error when the layer's strength is 0: nothing of it would be seen.
 */
export function keyPose<L extends Layer>(layer: L, shown: Motion, posed: Motion, frame: number): L {
  if (layer.strength === 0)
    throw new Error(`The layer "${layer.name}" has no strength: nothing of a pose would be seen.`);
  const key: LayerKey = { frame, turns: {}, root: null };
  shown.skeleton.joints.forEach(({ name }, joint) => {
    if (!reachesChannel(layer, name)) return;
    const was = readRotation(shown, joint, 0, quat.create());
    const is = readRotation(posed, joint, 0, quat.create());
    if ([0, 1, 2, 3].every((k) => Math.abs(was[k] - is[k]) < SAME_TURN)) return;
    key.turns[name] = turnKey(layer, name, was, is, frame, joint === 0);
  });
  const moved = [0, 1, 2].map((k) => posed.root[k] - shown.root[k]);
  if (reachesChannel(layer, ROOT) && Math.hypot(...moved) > SAME_PLACE) {
    const own = rootOffsetAt(layer, frame);
    const place = layer.mode === 'override' ? [...posed.root] : moved.map((way, k) => (own[k] + way) / layer.strength);
    key.root = [place[0], place[1], place[2]];
  }
  if (Object.keys(key.turns).length === 0 && !key.root) return layer;
  return { ...layer, keys: putKey(layer.keys, key) };
}

/** Keys all channels of a layer at a frame as they are there, so that what comes after does not change it. @param shown the motion with the layer. */
export function keyAsShown<L extends Layer>(layer: L, shown: Motion, frame: number): L {
  const [names, moves] = channelNames(layer);
  const turns = names.map((name): [string, quat] => {
    const joint = jointIndex(shown.skeleton, name);
    if (layer.mode === 'override' && joint >= 0) return [name, readRotation(shown, joint, frame, quat.create())];
    return [name, offsetAt({ ...layer, strength: 1 }, name, frame, quat.create())];
  });
  const root =
    layer.mode === 'override'
      ? shown.root.subarray(frame * 3, frame * 3 + 3)
      : rootOffsetAt({ ...layer, strength: 1 }, frame);
  return { ...layer, keys: putKey(layer.keys, keyOf(frame, turns, moves ? root : null)) };
}

/** Keys all channels of an offset layer at a frame so that it changes nothing there. */
export function keyNothing<L extends Layer>(layer: L, frame: number): L {
  const [names, moves] = channelNames(layer);
  const turns = names.map((name): [string, quat] => [name, quat.create()]);
  return { ...layer, keys: putKey(layer.keys, keyOf(frame, turns, moves ? [0, 0, 0] : null)) };
}

/** Joints that a layer has keys of, and whether it moves the root. */
const channelNames = ({ keys }: Layer): [string[], boolean] => [
  [...new Set(keys.flatMap(({ turns }) => Object.keys(turns)))],
  keys.some(({ root }) => root !== null),
];

function keyOf(frame: number, turns: readonly (readonly [string, quat])[], root: ArrayLike<number> | null): LayerKey {
  return {
    frame,
    turns: Object.fromEntries(turns.map(([name, [x, y, z, w]]) => [name, [x, y, z, w]])),
    root: root && [root[0], root[1], root[2]],
  };
}

/** What a joint's key has to be, so that the layer at its strength turns it from where it is to where it shall be. */
function turnKey(
  layer: Layer,
  name: string,
  was: quat,
  is: quat,
  frame: number,
  ownAxes: boolean,
): [number, number, number, number] {
  if (layer.mode === 'override') return [is[0], is[1], is[2], is[3]];
  const offset = offsetAt(layer, name, frame, quat.create());
  const back = quat.conjugate(quat.create(), was);
  // In the parent's axes: is = change · was and was = offset · below. In its own: is = was · change and was = below · offset.
  const change = ownAxes ? quat.multiply(back, back, is) : quat.multiply(back, is, back);
  const whole = ownAxes ? quat.multiply(quat.create(), offset, change) : quat.multiply(quat.create(), change, offset);
  if (whole[3] < 0) quat.scale(whole, whole, -1);
  if (layer.strength < 1) quat.pow(whole, whole, 1 / layer.strength);
  quat.normalize(whole, whole);
  return [whole[0], whole[1], whole[2], whole[3]];
}
