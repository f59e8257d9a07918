import { vec3, type quat } from 'gl-matrix';
import { SIDES, type Side } from '../../motion/humanoid';
import { HAND_MARK_COUNT, KNUCKLES, WRIST } from '../../observe/hands';
import type { Observations } from '../../observe/observations';
import { partIsSeen } from '../../observe/unseen';

/** Which way a palm lies: from the wrist to the knuckles, and from the little finger's to the index finger's. */
export interface Palm {
  palm: vec3;
  across: vec3;
}

/** What the networks of hands and face tell of one frame, in the camera's axes; nothing where they saw nothing. */
export type CloserLook = Partial<Record<Side, Palm>> & { head?: quat };

/** The knuckles of index and little finger. */
const [INDEX, , , LITTLE] = KNUCKLES;

/** Reads wrists and head of a frame from the marks of hands and face, which see them closer than the body's do. */
export function closerLook({ hands, face }: Partial<Pick<Observations, 'hands' | 'face'>>, frame: number): CloserLook {
  const look: CloserLook = {};
  for (const side of SIDES) {
    const hand = hands?.[side];
    if (!hand || !partIsSeen(hand, frame)) continue;
    const between = (a: number, b: number): vec3 =>
      [0, 1, 2].map(
        (k) => hand.world[(frame * HAND_MARK_COUNT + b) * 3 + k] - hand.world[(frame * HAND_MARK_COUNT + a) * 3 + k],
      ) as vec3;
    const [index, little] = [between(WRIST, INDEX), between(WRIST, LITTLE)];
    look[side] = {
      palm: [0, 1, 2].map((k) => (index[k] + little[k]) / 2) as vec3,
      across: between(LITTLE, INDEX),
    };
  }
  if (face && partIsSeen(face, frame)) look.head = Array.from(face.turn.subarray(frame * 4, frame * 4 + 4)) as quat;
  return look;
}

/** The hand network's palm counts where it faces the body's to within this angle, radians. */
const AGREE = Math.PI / 3;

/**
 * The palm that the body's marks and the hand's tell together: the mean of both where they agree. The hand network
 * takes small hands for their mirror image in depth now and then, so that its palm faces the other way: then its
 * mirror image is asked. Where neither agrees, the body's marks stand.
 */
export function jointPalm(body: Palm, hand: Palm | undefined): Palm {
  if (!hand) return body;
  const facing = ({ palm, across }: Palm): vec3 => vec3.cross([0, 0, 0], across, palm);
  const mirrored = (v: vec3): vec3 => [v[0], v[1], -v[2]];
  const mirror: Palm = { palm: mirrored(hand.palm), across: mirrored(hand.across) };
  const off = (palm: Palm): number => vec3.angle(facing(palm), facing(body));
  const [best] = [hand, mirror].sort((a, b) => off(a) - off(b));
  if (off(best) > AGREE) return body;
  const mean = (a: vec3, b: vec3): vec3 =>
    vec3.add([0, 0, 0], vec3.normalize([0, 0, 0], a), vec3.normalize([0, 0, 0], b));
  return { palm: mean(body.palm, best.palm), across: mean(body.across, best.across) };
}
