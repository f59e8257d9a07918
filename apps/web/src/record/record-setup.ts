import type { CameraWish } from './live-camera';

/** How one records. */
export interface RecordSetup extends CameraWish {
  source: 'webcam' | 'depth';
  /** Seconds of the count-down, and of a try; 0 until it is stopped. */
  countDown: number;
  seconds: number;
  /** Arms crossed over the head start and stop. */
  handsFree: boolean;
  /** Hands and face are followed live, too: slower. */
  fingers: boolean;
  face: boolean;
  /** The figure moves along beside the picture. */
  figure: boolean;
  /** What is wrong is said aloud. */
  spoken: boolean;
}

export const USUAL_SETUP: RecordSetup = {
  source: 'webcam',
  camera: '',
  microphone: '',
  width: 1280,
  height: 720,
  rate: 30,
  countDown: 5,
  seconds: 0,
  handsFree: false,
  fingers: false,
  face: false,
  figure: false,
  spoken: false,
};

/** Sizes that cameras have. */
export const SIZES = [
  [640, 480],
  [1280, 720],
  [1920, 1080],
] as const;
