/**
 * What the tracker saw of one body. The 33 marks follow the published topology of the pose network;
 * "left" and "right" are the performer's own.
 */
export const MARK_NAMES = [
  'nose',
  'leftEyeInner',
  'leftEye',
  'leftEyeOuter',
  'rightEyeInner',
  'rightEye',
  'rightEyeOuter',
  'leftEar',
  'rightEar',
  'mouthLeft',
  'mouthRight',
  'leftShoulder',
  'rightShoulder',
  'leftElbow',
  'rightElbow',
  'leftWrist',
  'rightWrist',
  'leftPinky',
  'rightPinky',
  'leftIndex',
  'rightIndex',
  'leftThumb',
  'rightThumb',
  'leftHip',
  'rightHip',
  'leftKnee',
  'rightKnee',
  'leftAnkle',
  'rightAnkle',
  'leftHeel',
  'rightHeel',
  'leftFootIndex',
  'rightFootIndex',
] as const;
export type MarkName = (typeof MARK_NAMES)[number];
export const MARK_COUNT = MARK_NAMES.length;
export const MARK = Object.fromEntries(MARK_NAMES.map((name, i) => [name, i])) as Record<MarkName, number>;

/** Pairs of marks that are joined by a line when marks are drawn. */
export const MARK_LINES: readonly (readonly [MarkName, MarkName])[] = [
  ['leftShoulder', 'rightShoulder'],
  ['leftHip', 'rightHip'],
  ['leftShoulder', 'leftHip'],
  ['rightShoulder', 'rightHip'],
  ['leftShoulder', 'leftElbow'],
  ['leftElbow', 'leftWrist'],
  ['rightShoulder', 'rightElbow'],
  ['rightElbow', 'rightWrist'],
  ['leftWrist', 'leftIndex'],
  ['leftWrist', 'leftPinky'],
  ['rightWrist', 'rightIndex'],
  ['rightWrist', 'rightPinky'],
  ['leftHip', 'leftKnee'],
  ['leftKnee', 'leftAnkle'],
  ['rightHip', 'rightKnee'],
  ['rightKnee', 'rightAnkle'],
  ['leftAnkle', 'leftHeel'],
  ['leftHeel', 'leftFootIndex'],
  ['rightAnkle', 'rightHeel'],
  ['rightHeel', 'rightFootIndex'],
  ['leftEar', 'nose'],
  ['nose', 'rightEar'],
];

export type MarkSide = 'left' | 'right' | 'middle';

/** Whose side a mark lies on. */
export function markSide(name: MarkName): MarkSide {
  if (name.startsWith('left') || name === 'mouthLeft') return 'left';
  if (name.startsWith('right') || name === 'mouthRight') return 'right';
  return 'middle';
}

/** Columns of all frames of a take. A frame in which nobody was seen has presence 0 and NaN marks. */
export interface BodyObservations {
  readonly frames: number;
  /** Frames in a second. */
  readonly rate: number;
  /** Size of the upright picture, pixels. */
  readonly width: number;
  readonly height: number;
  /** frames × 33 × 3: x, y in pixels, visibility 0 … 1. */
  readonly marks: Float32Array;
  /** frames × 33 × 3: metres round the middle of the hips, in the camera's axes with +Y up and +Z to the camera. */
  readonly world: Float32Array;
  /** frames: how sure the network is that somebody is there, 0 … 1. */
  readonly presence: Float32Array;
  /** frames × 33: how far along the camera's axis each mark lies, metres, as a depth camera tells it; NaN where it tells nothing. */
  readonly depth?: Float32Array;
  /** frames × 4: how the camera moved since the frame before, see `CameraMotion`; left out where it is not known. */
  readonly cameraMotion?: Float32Array;
  /** frames: 1 where the picture does not go on from the one before; left out where it is not known. */
  readonly cut?: Float32Array;
  /** frames: 1 where the picture shows no moment of its own: doubled by a recorder, a still, amid a fade; left out where it is not known. */
  readonly skipped?: Float32Array;
}

export function emptyBodyObservations(frames: number, rate: number, width: number, height: number): BodyObservations {
  return {
    frames,
    rate,
    width,
    height,
    marks: new Float32Array(frames * MARK_COUNT * 3).fill(NaN),
    world: new Float32Array(frames * MARK_COUNT * 3).fill(NaN),
    presence: new Float32Array(frames),
  };
}

/** The same observations with nobody seen where the picture shows no moment of its own. */
export function momentsOnly<T extends BodyObservations>(observations: T): T {
  const { skipped } = observations;
  if (!skipped?.includes(1)) return observations;
  return { ...observations, presence: observations.presence.map((value, frame) => (skipped[frame] ? 0 : value)) };
}

/** True where the performer was seen. */
export function isSeen(observations: BodyObservations, frame: number): boolean {
  return observations.presence[frame] > 0.5 && Number.isFinite(observations.marks[frame * MARK_COUNT * 3]);
}
