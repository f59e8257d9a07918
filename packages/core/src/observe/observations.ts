import { CAMERA_MOTION_WIDTH } from '../camera/camera-motion';
import { emptyBodyObservations, MARK_COUNT, type BodyObservations } from './body';
import { emptyFaceObservations, FACE_MARK_COUNT, type FaceObservations } from './face';
import { emptyHandObservations, HAND_MARK_COUNT, type BothHands } from './hands';

/** All that was seen of one performer; hands and face are null where they were not asked for, depth is left out without a depth camera. */
export interface Observations extends BodyObservations {
  readonly cameraMotion: Float32Array;
  readonly cut: Float32Array;
  readonly skipped: Float32Array;
  readonly hands: BothHands | null;
  readonly face: FaceObservations | null;
}

/** What a capture looks at besides the body. */
export interface CapturedParts {
  hands: boolean;
  face: boolean;
}

/** Which columns observations have. */
const partsOf = ({ hands, face, depth }: Observations): CapturedParts & { depth: boolean } => ({
  hands: hands !== null,
  face: face !== null,
  depth: depth !== undefined,
});

export function emptyObservations(
  frames: number,
  rate: number,
  width: number,
  height: number,
  parts: CapturedParts & { depth?: boolean },
): Observations {
  return {
    ...emptyBodyObservations(frames, rate, width, height),
    ...(parts.depth && { depth: new Float32Array(frames * MARK_COUNT).fill(NaN) }),
    cameraMotion: new Float32Array(frames * CAMERA_MOTION_WIDTH),
    cut: new Float32Array(frames),
    skipped: new Float32Array(frames),
    hands: parts.hands ? { left: emptyHandObservations(frames), right: emptyHandObservations(frames) } : null,
    face: parts.face ? emptyFaceObservations(frames) : null,
  };
}

/** Columns that are stored and fetched together: what is drawn over the picture, what only the solve needs, hands, face, depths. */
export const OBSERVATION_GROUPS = ['body', 'space', 'hands', 'face', 'depth'] as const;
export type ObservationGroup = (typeof OBSERVATION_GROUPS)[number];

/** One column of numbers: `width` values for each frame. */
export interface ObservationColumn {
  name: string;
  width: number;
  data: Float32Array;
}

/** The group that a column belongs to. */
export function groupOf(column: string): ObservationGroup {
  // How sure each part is counts for the whole take at once.
  if (column.endsWith('presence')) return 'body';
  if (column === 'depth') return 'depth';
  if (column === 'world' || column === 'cameraMotion') return 'space';
  if (column.startsWith('face.')) return 'face';
  return column.includes('Hand.') ? 'hands' : 'body';
}

/** All columns in a fixed order: what storing, cutting and joining go over. */
export function observationColumns(observations: Observations): ObservationColumn[] {
  const { marks, world, presence, cameraMotion, cut, skipped, hands, face, depth } = observations;
  const columns: ObservationColumn[] = [
    { name: 'marks', width: MARK_COUNT * 3, data: marks },
    { name: 'world', width: MARK_COUNT * 3, data: world },
    { name: 'presence', width: 1, data: presence },
    { name: 'cameraMotion', width: CAMERA_MOTION_WIDTH, data: cameraMotion },
    { name: 'cut', width: 1, data: cut },
    { name: 'skipped', width: 1, data: skipped },
  ];
  if (hands) {
    for (const side of ['left', 'right'] as const) {
      columns.push(
        { name: `${side}Hand.marks`, width: HAND_MARK_COUNT * 2, data: hands[side].marks },
        { name: `${side}Hand.world`, width: HAND_MARK_COUNT * 3, data: hands[side].world },
        { name: `${side}Hand.presence`, width: 1, data: hands[side].presence },
      );
    }
  }
  if (face) {
    columns.push(
      { name: 'face.marks', width: FACE_MARK_COUNT * 3, data: face.marks },
      { name: 'face.turn', width: 4, data: face.turn },
      { name: 'face.presence', width: 1, data: face.presence },
    );
  }
  if (depth) columns.push({ name: 'depth', width: MARK_COUNT, data: depth });
  return columns;
}

/** A copy of some frames. */
export function sliceObservations(observations: Observations, from: number, until: number): Observations {
  const { rate, width: across, height } = observations;
  const out = emptyObservations(until - from, rate, across, height, partsOf(observations));
  const source = observationColumns(observations);
  observationColumns(out).forEach(({ data, width }, i) =>
    data.set(source[i].data.subarray(from * width, until * width)),
  );
  return out;
}

/** A piece of a take's observations. */
export interface ObservationChunk {
  /** First frame of the piece within the take. */
  first: number;
  observations: Observations;
}

/** Joins pieces, in any order, to the observations of the whole take. */
export function joinChunks(pieces: readonly ObservationChunk[]): Observations {
  const frames = pieces.reduce((most, { first, observations }) => Math.max(most, first + observations.frames), 0);
  const sample = pieces[0]?.observations;
  const parts = sample ? partsOf(sample) : { hands: false, face: false };
  const whole = emptyObservations(frames, sample?.rate ?? 30, sample?.width ?? 1, sample?.height ?? 1, parts);
  const columns = observationColumns(whole);
  for (const { first, observations } of pieces) {
    const source = observationColumns(observations);
    columns.forEach(({ data, width }, i) => data.set(source[i].data, first * width));
  }
  return whole;
}

/** The same observations in a picture of another size: a copy with all pixels scaled. */
export function scalePicture(observations: Observations, width: number, height: number): Observations {
  const out = { ...sliceObservations(observations, 0, observations.frames), width, height };
  const scale = width / observations.width;
  const pixels: [data: Float32Array, stride: number, scaled: number][] = [
    [out.marks, 3, 2],
    [out.cameraMotion, CAMERA_MOTION_WIDTH, 2],
  ];
  if (out.hands) pixels.push([out.hands.left.marks, 2, 2], [out.hands.right.marks, 2, 2]);
  if (out.face) pixels.push([out.face.marks, 3, 3]);
  for (const [data, stride, scaled] of pixels)
    for (let i = 0; i < data.length; i++) if (i % stride < scaled) data[i] *= scale;
  return out;
}
