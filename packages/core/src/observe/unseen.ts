import type { SolvedFootage } from './slice-footage';

/** Parts that are tracked beside the body. */
export type UnseenPart = 'leftHand' | 'rightHand' | 'face';
/** 1 for frames in which a part was not seen; nothing of parts that were not captured. */
export type Unseen = Partial<Record<UnseenPart, Uint8Array>>;

const LEAST_PRESENCE = 0.5;

/** Frames in which hands and face were not seen. */
export function unseenParts({ hands, face }: SolvedFootage): Unseen {
  const flags = (presence: Float32Array): Uint8Array =>
    Uint8Array.from(presence, (value) => (value > LEAST_PRESENCE ? 0 : 1));
  return {
    ...(hands && { leftHand: flags(hands.left.presence), rightHand: flags(hands.right.presence) }),
    ...(face && { face: flags(face.presence) }),
  };
}
