import { FACE_MEASURES } from './face-measures';

/** Frames before and after a picked neutral frame that are meaned with it. */
const AROUND = 2;
/** The share of a take's frames that are nearest to doing nothing, and how many at least. */
const SHARE = 0.15;
const LEAST = 6;
/** A head that is turned by less than this looks ahead, radians (sines). */
const AHEAD = 0.3;

const at = (name: string): number => FACE_MEASURES.indexOf(name);
const EYES = [at('right.open'), at('left.open')];
const BROWS = ['right.browMiddle', 'left.browMiddle', 'right.browInner', 'left.browInner'].map(at);
const MOUTH = ['right.cornerX', 'left.cornerX', 'right.cornerY', 'left.cornerY'].map(at);
const [GAP, YAW, PITCH] = ['gap', 'yaw', 'pitch'].map(at);

/**
 * The performer's own face at rest: the mean of the frames that are nearest to it, mouth closed, eyes open, brows and corners of the mouth where they are mostly, the head ahead.
 * @param measures of each frame (see `measureFace`); null where no face was seen.
 * @param picked a frame that a person said is neutral.
 * @returns one for each of `FACE_MEASURES`, or null where no face was ever seen.
 */
export function neutralFace(measures: readonly (readonly number[] | null)[], picked?: number): number[] | null {
  const near = picked === undefined ? [] : measures.slice(Math.max(0, picked - AROUND), picked + AROUND + 1);
  const given = near.flatMap((one) => (one ? [one] : []));
  if (given.length > 0) return FACE_MEASURES.map((_, i) => mean(given.map((one) => one[i])));
  const seen = measures.flatMap((one) => (one ? [one] : []));
  if (seen.length === 0) return null;
  const rest = FACE_MEASURES.map((_, i) => quantile(seen, i, i === GAP ? 0.1 : EYES.includes(i) ? 0.8 : 0.5));
  const spread = FACE_MEASURES.map((_, i) => Math.max(1e-3, quantile(seen, i, 0.84) - quantile(seen, i, 0.16)) / 2);
  const off = (one: readonly number[]): number => {
    const part = (i: number): number => ((one[i] - rest[i]) / spread[i]) ** 2;
    const turned =
      (Math.max(0, Math.abs(one[YAW]) - AHEAD) + Math.max(0, Math.abs(one[PITCH] - rest[PITCH]) - AHEAD)) / 0.1;
    const list = [...EYES, ...BROWS, ...MOUTH];
    return list.reduce((sum, i) => sum + part(i), 0) / list.length + part(GAP) + turned ** 2;
  };
  const ordered = [...seen].sort((a, b) => off(a) - off(b)).slice(0, Math.max(LEAST, Math.round(SHARE * seen.length)));
  return FACE_MEASURES.map((_, i) => quantile(ordered, i, 0.5));
}

const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;

function quantile(rows: readonly (readonly number[])[], column: number, share: number): number {
  const sorted = rows.map((row) => row[column]).sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))];
}
