import { FACE_SHAPES, type FaceShape } from '@merry-shadow/core/face/face-shapes';
import { sampleTrack } from '../choreography/keys';
import type { FaceStrengths } from '../body/skin';
import type { Performance } from '../choreography/perform';
import type { Moves } from '../choreography/script';

/** Half of a blink, seconds. */
const LID = 0.09;

/** Samples the shapes of a face that a script asks for: keys of shapes, the mouth's own keys, and blinks. */
export function performFace(moves: Moves, frames: number, rate: number): Partial<Record<FaceShape, Float64Array>> {
  const made: Partial<Record<FaceShape, Float64Array>> = {};
  for (const shape of FACE_SHAPES)
    if (moves.face.some(({ shapes }) => shapes[shape]))
      made[shape] = sampleTrack(moves.face, ({ shapes }) => shapes[shape] ?? 0, frames, rate, 0);
  const atMost = (shape: FaceShape, values: ArrayLike<number>): void => {
    made[shape] = Float64Array.from(values, (value, f) => Math.max(value, made[shape]?.[f] ?? 0));
  };
  if (moves.mouth.length > 0)
    atMost(
      'jawOpen',
      sampleTrack(moves.mouth, ({ open }) => open, frames, rate, 0),
    );
  if (moves.blinks.length > 0) {
    const lids = Array.from({ length: frames }, (_, f) =>
      Math.max(0, ...moves.blinks.map((moment) => 1 - Math.abs(f / rate - moment) / LID)),
    );
    for (const shape of ['eyeBlinkLeft', 'eyeBlinkRight'] as const) atMost(shape, lids);
  }
  return made;
}

/** How strongly the shapes of a performer's face are made in a frame. */
export const strengthsAt = ({ face }: Pick<Performance, 'face'>, frame: number): FaceStrengths =>
  Object.fromEntries(Object.entries(face).map(([shape, values]) => [shape, values[frame]]));
