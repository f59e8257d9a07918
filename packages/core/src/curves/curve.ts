import { z } from 'zod';
import { limitedSlope } from '../layers/key-course';

/** How a curve runs at a key: smoothly without going beyond its neighbours, straight to the next key, staying until the next key, or by handles of one's own. */
export const KEY_SHAPES = ['smooth', 'straight', 'step', 'free'] as const;

/** Where a handle of a free key stands from it: frames aside, more than none, and value. */
const Handle = z.tuple([z.number().min(0.01).max(10_000), z.number()]);

export const CurveKey = z.object({
  /** Frame of the clip. */
  frame: z.number().int(),
  /** Degrees, centimetres, or a share, as the channel has it. */
  value: z.number(),
  shape: z.enum(KEY_SHAPES).default('smooth'),
  /** Handles of a free key on the side of earlier and of later frames, told from it outwards; where both point the same way the curve has no corner. */
  before: Handle.optional(),
  after: Handle.optional(),
});
export type CurveKey = z.infer<typeof CurveKey>;

/** Keys in the order of their frames, one for a frame. */
export const CurveKeys = z
  .array(CurveKey)
  .max(20_000)
  .refine(
    (keys) => keys.every(({ frame }, i) => i === 0 || frame > keys[i - 1].frame),
    'Keys stand in the order of their frames, one for a frame.',
  );

/** Both handles of a key as the curve uses them, from the key outwards: those of a free one, or what its shape makes. */
export function handlesOf(keys: readonly CurveKey[], i: number): { before: [number, number]; after: [number, number] } {
  const [last, key, next] = [keys.at(i - 1), keys[i], keys[i + 1]] as const;
  const left = i > 0 && last ? key.frame - last.frame : 0;
  const right = next ? next.frame - key.frame : 0;
  const rise = left > 0 && last ? (key.value - last.value) / left : null;
  const fall = right > 0 ? (next.value - key.value) / right : null;
  const slope = rise !== null && fall !== null ? limitedSlope(rise, fall, left, right) : (rise ?? fall ?? 0);
  const before: [number, number] = [Math.max(0.01, left / 3), (-slope * left) / 3];
  const after: [number, number] = [Math.max(0.01, right / 3), (slope * right) / 3];
  return key.shape === 'free' ? { before: key.before ?? before, after: key.after ?? after } : { before, after };
}

/** A piece of a curve between two keys: a cubic Bézier curve over time; a straight line and a step are such curves, too. */
interface Piece {
  frame: number;
  span: number;
  /** Where its handles are in time, 0 … 1. */
  a: number;
  b: number;
  /** Values of its ends and handles. */
  values: readonly [number, number, number, number];
}

/** A curve through keys, asked for its values. */
export class CurveCourse {
  private readonly pieces: (Piece | undefined)[] = [];

  constructor(private readonly keys: readonly CurveKey[]) {}

  /** The value at a frame, whole or not; beside the first and the last key those hold. NaN without keys. */
  at(frame: number): number {
    const { keys } = this;
    if (keys.length === 0) return NaN;
    const end = keys[keys.length - 1];
    if (frame <= keys[0].frame) return keys[0].value;
    if (frame >= end.frame) return end.value;
    let i = 0;
    for (let high = keys.length - 1; high - i > 1;) {
      const middle = (i + high) >> 1;
      if (keys[middle].frame <= frame) i = middle;
      else high = middle;
    }
    return this.between(i, frame);
  }

  private between(i: number, frame: number): number {
    const { frame: start, span, a, b, values } = (this.pieces[i] ??= pieceAfter(this.keys, i));
    const t = timeShare(a, b, (frame - start) / span);
    const u = 1 - t;
    return u * u * u * values[0] + 3 * u * u * t * values[1] + 3 * u * t * t * values[2] + t * t * t * values[3];
  }
}

/** The piece from a key to the next one. */
function pieceAfter(keys: readonly CurveKey[], i: number): Piece {
  const [from, until] = [keys[i], keys[i + 1]];
  const span = until.frame - from.frame;
  const piece = { frame: from.frame, span, a: 1 / 3, b: 2 / 3 };
  const [start, end] = [from.value, until.value];
  if (from.shape === 'step') return { ...piece, values: [start, start, start, start] };
  const third = (end - start) / 3;
  if (from.shape === 'straight') return { ...piece, values: [start, start + third, end - third, end] };
  // Handles that would turn time back are shortened.
  const [ax, ay] = shortened(handlesOf(keys, i).after, span);
  const [bx, by] =
    until.shape === 'straight' || until.shape === 'step'
      ? [span / 3, -third]
      : shortened(handlesOf(keys, i + 1).before, span);
  return { ...piece, a: ax / span, b: 1 - bx / span, values: [start, start + ay, end + by, end] };
}

function shortened([frames, value]: readonly [number, number], span: number): [number, number] {
  const part = Math.min(1, span / frames);
  return [frames * part, value * part];
}

/** The parameter at which a Bézier curve from 0 to 1, with handles at a and b, has come to a share: time never goes back, so halving finds it. */
function timeShare(a: number, b: number, share: number): number {
  if (Math.abs(a - 1 / 3) < 1e-9 && Math.abs(b - 2 / 3) < 1e-9) return share;
  let [low, high] = [0, 1];
  for (let n = 0; n < 40; n++) {
    const t = (low + high) / 2;
    const u = 1 - t;
    if (3 * u * u * t * a + 3 * u * t * t * b + t * t * t < share) low = t;
    else high = t;
  }
  return (low + high) / 2;
}
