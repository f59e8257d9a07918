import type { PinholeCamera } from '../camera/pinhole';
import type { Resting } from '../ground/plants';
import type { Motion } from '../motion/motion';
import type { Unseen } from '../observe/unseen';
import type { SolvedFootage } from '../observe/slice-footage';
import type { FitWeights } from './fit/evidence';
import type { Manner } from './after/manner';
import type { DepthHint } from './hints/depth-hints';
import type { ToldMarks } from './hints/told-marks';
import type { Correction } from './network/network-correction';
import type { MeasuredBody } from './body/proportions';

/** Counts up whenever the same observations would give another motion, so that kept motions are made again. */
export const SOLVE_VERSION = 22;

/** Somebody else in the same frames of a clip. */
export interface OtherPerformer {
  footage: SolvedFootage;
  /** Crown to floor, metres, where it is known. */
  height?: number;
}

export interface SolveOptions {
  /** Crown to floor, metres; estimated when left out. */
  height?: number;
  /** Across the long side of the picture, degrees. */
  fieldOfView?: number;
  /** A frame that shows the body's proportions best, instead of the T- or A-pose that is looked for. */
  calibration?: number;
  /** A frame in which the face does nothing, instead of what is found. */
  neutral?: number;
  /** How far the mouth is open as the voice tells it, one for each frame (see `jawFromSound`): counts where no face was seen. */
  mouth?: Float32Array;
  /** How far the camera looks down, degrees; found from the body and the floor if left out. */
  tilt?: number;
  /** False leaves in what the camera moved, which is taken out otherwise. */
  steady?: boolean;
  /** Frames with which another shot begins; those that were found in the picture if left out. */
  cuts?: readonly number[];
  /** What a person says of the depth of hands, elbows, knees and feet. */
  hints?: readonly DepthHint[];
  /** What a person says of marks in the picture. */
  marks?: ToldMarks;
  /** Others who were seen in the same frames: all of them share camera, floor, scale and world. */
  others?: readonly OtherPerformer[];
  /** How the performer moves; about the room if left out. */
  manner?: Manner;
  /** Simple smoothing after the first estimate. */
  smooth?: boolean;
  /** The fit over the whole take; without it the first estimate alone is given. */
  fit?: boolean;
  weights?: Partial<FitWeights>;
  /** Another correction of the network's points than the learned one, or null for none: to measure what it brings. */
  correction?: Correction | null;
  /** Feet held where they rest. */
  contacts?: boolean;
}

/** What lies between two cuts of a take: frames from … until − 1, and the camera that filmed them. */
export interface SolvedShot {
  from: number;
  until: number;
  camera: PinholeCamera;
}

export interface SolvedTake {
  motion: Motion;
  body: MeasuredBody;
  /** The camera of the first shot in the motion's world, for drawing the motion over the video; where it moved, as it looked on average. */
  camera: PinholeCamera;
  /** The shots that the take was solved in, each with its camera; one where there is no cut. */
  shots: SolvedShot[];
  /** The farthest that the camera turned from there, radians, which was taken out; 0 for one that stood still. */
  turned: number;
  /** The share of frames in which nothing in the picture told whether the camera moved, 0 … 1; it is taken to have stood still there. */
  untold: number;
  /** How far off the floor's slope may be (standard deviation), radians: told by people or given (0); null where nobody stands upright, so that it is guessed. */
  floorDoubt: number | null;
  /** 1 for frames whose pose was carried over a gap. */
  bridged: Uint8Array;
  /** 1 for frames in which a hand or the face was not seen, of those that were captured. */
  unseen: Unseen;
  /** How firmly soles and hands rest, frame by frame, 0 … 1; null where it was not asked. */
  contacts: Resting<Float64Array> | null;
}

/** A take in which nobody can be solved; the message is a sentence for the person. */
export class SolveError extends Error {
  override name = 'SolveError';
}

/** What one shot is solved to; the rest of a solved take is joined from all shots. */
export type ShotSolution = Pick<SolvedTake, 'motion' | 'camera' | 'bridged' | 'contacts'>;
