import type { SolvedFootage } from './slice-footage';

/** Parts that are tracked beside the body. */
export type UnseenPart = 'leftHand' | 'rightHand' | 'face';
/** 1 for frames in which a part was not seen; nothing of parts that were not captured. */
export type Unseen = Partial<Record<UnseenPart, Uint8Array>>;

/** Whether a hand or a face counts as seen in a frame: from this presence on. */
export const partIsSeen = ({ presence }: { readonly presence: Float32Array }, frame: number): boolean =>
  presence[frame] > 0.5;

/** Frames in which hands and face were not seen. */
export function unseenParts({ hands, face }: Pick<SolvedFootage, 'hands' | 'face'>): Unseen {
  const flags = (part: { readonly presence: Float32Array }): Uint8Array =>
    Uint8Array.from(part.presence, (_, frame) => (partIsSeen(part, frame) ? 0 : 1));
  return {
    ...(hands && { leftHand: flags(hands.left), rightHand: flags(hands.right) }),
    ...(face && { face: flags(face) }),
  };
}
