import type { PinholeCamera } from '../../camera/pinhole';
import type { BodyObservations } from '../../observe/body';
import type { Agilities } from './agility';
import type { HintedDepth } from '../hints/depth-hints';
import type { Contacts } from '../floor/contacts';

/** How strongly each kind of evidence is believed; see docs/accuracy.md for what each part brings. */
export interface FitWeights {
  /** Standard deviation of a mark, in lengths of the trunk in the picture. */
  mark: number;
  /** Of the network's bone vectors across and along the view, metres. */
  across: number;
  along: number;
  /** Of accelerations across and along the view of what rests, m/s²; what moves has more (`agility.ts`). */
  calmAcross: number;
  calmAlong: number;
  /** Standard deviations beyond which accelerations count linearly. */
  calmHuber: number;
  /** Of a resting sole point: travel for each frame, and height, metres. */
  rest: number;
  floor: number;
}

export const FIT_WEIGHTS: FitWeights = {
  mark: 0.04,
  across: 0.1,
  along: 0.06,
  calmAcross: 0.5,
  calmAlong: 0.4,
  calmHuber: 2,
  rest: 0.002,
  floor: 0.01,
};

/** All that a motion is fitted to. */
export interface Evidence {
  observations: BodyObservations;
  /** How strongly marks speed up in them. */
  agilities: Agilities;
  camera: PinholeCamera;
  /** Metres for one metre of the network. */
  scale: number;
  height: number;
  contacts: Contacts | null;
  /** What a person says of depths, frame by frame; nothing if left out. */
  hints?: readonly (readonly HintedDepth[])[] | null;
  /** By how much more a depth camera may be off before it is taken to see another thing: 1, more while the body is not yet where it is. */
  slack: number;
  /** What holds each unknown where it is: little while it has far to go, more to settle it. */
  damping: number;
  weights: FitWeights;
}
