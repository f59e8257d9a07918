import { HINTED_MARKS } from '@merry-shadow/core/solve/hints/depth-hints';
import { CORRECTED, correctionOf, type Correction } from '@merry-shadow/core/solve/network/network-correction';
import { mirrored, type Sample } from './samples';

/** Sums of products of errors, and how many frames they are of. */
export interface ErrorProducts {
  sums: number[][];
  frames: number;
}

export const noProducts = (): ErrorProducts => ({
  sums: HINTED_MARKS.map(() => HINTED_MARKS.map(() => 0)),
  frames: 0,
});

/** Where each hinted mark's depth lies among a sample's numbers. */
const DEPTHS = HINTED_MARKS.map((mark) => CORRECTED.indexOf(mark) * 3 + 2);

/**
 * Adds what the depths of frames get wrong together after a correction, each frame also in a mirror; body heights.
 * @param correction one that was not learned from these frames.
 */
export function addProducts(products: ErrorProducts, samples: readonly Sample[], correction: Correction): void {
  for (const sample of samples.flatMap((one) => [one, mirrored(one)])) {
    const off = correctionOf(sample.input, correction);
    const errors = DEPTHS.map((i) => sample.joints[i] - sample.points[i] - off[i]);
    errors.forEach((a, i) => errors.forEach((b, k) => (products.sums[i][k] += a * b)));
    products.frames++;
  }
}

/** How depths err together, as a TypeScript module. */
export function depthErrorsText({ sums, frames }: ErrorProducts): string {
  const row = (values: readonly number[]): string =>
    `  [${values.map((value) => String(Number(((value / frames) * 1e4).toPrecision(3)))).join(', ')}],`;
  return [
    '// Written by `./run train`.',
    '',
    '/**',
    " * How the pose network's depths of `HINTED_MARKS` err together where they are corrected by what was learned from other builders: their second moments, body heights squared",
    ' * times 10⁻⁴.',
    ' */',
    '// prettier-ignore',
    'export const DEPTH_ERRORS: readonly (readonly number[])[] = [',
    ...sums.map(row),
    '];',
    '',
  ].join('\n');
}
