import { CAMERA_MOTION_WIDTH } from '../camera/camera-motion';
import { MARK_COUNT, type BodyObservations } from './body';
import { FACE_MARK_COUNT } from './face';
import { HAND_MARK_COUNT, type HandObservations } from './hands';
import type { Observations } from './observations';

/** What a take is solved from: the body's marks, and those of hands and face where they were captured. */
export type SolvedFootage = BodyObservations & Partial<Pick<Observations, 'hands' | 'face'>>;

/** Some frames of a footage, with all that was seen in them. */
export function sliceFootage<T extends SolvedFootage>(footage: T, from: number, until: number): T {
  const { hands, face, depth, cameraMotion, cut, skipped } = footage;
  const part = (values: Float32Array, stride: number): Float32Array => values.subarray(from * stride, until * stride);
  const hand = ({ marks, world, presence }: HandObservations): HandObservations => ({
    marks: part(marks, HAND_MARK_COUNT * 2),
    world: part(world, HAND_MARK_COUNT * 3),
    presence: part(presence, 1),
  });
  return {
    ...footage,
    frames: until - from,
    marks: part(footage.marks, MARK_COUNT * 3),
    world: part(footage.world, MARK_COUNT * 3),
    presence: part(footage.presence, 1),
    ...(depth && { depth: part(depth, MARK_COUNT) }),
    ...(cameraMotion && { cameraMotion: part(cameraMotion, CAMERA_MOTION_WIDTH) }),
    ...(cut && { cut: part(cut, 1) }),
    ...(skipped && { skipped: part(skipped, 1) }),
    ...(hands && { hands: { left: hand(hands.left), right: hand(hands.right) } }),
    ...(face && {
      face: {
        ...face,
        marks: part(face.marks, FACE_MARK_COUNT * 3),
        turn: part(face.turn, 4),
        presence: part(face.presence, 1),
      },
    }),
  };
}

/** Body observations of several shots, one after the other. */
export function joinFootage(parts: readonly BodyObservations[]): BodyObservations {
  const [first] = parts;
  if (parts.length === 1) return first;
  const frames = parts.reduce((sum, part) => sum + part.frames, 0);
  const joined = (of: (part: BodyObservations) => Float32Array): Float32Array => {
    const out = new Float32Array(parts.reduce((sum, part) => sum + of(part).length, 0));
    parts.reduce((at, part) => (out.set(of(part), at), at + of(part).length), 0);
    return out;
  };
  return {
    frames,
    rate: first.rate,
    width: first.width,
    height: first.height,
    marks: joined(({ marks }) => marks),
    world: joined(({ world }) => world),
    presence: joined(({ presence }) => presence),
    ...(first.depth && {
      depth: joined(({ depth, frames: count }) => depth ?? new Float32Array(count * MARK_COUNT).fill(NaN)),
    }),
  };
}
