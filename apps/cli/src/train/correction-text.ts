import type { Correction } from '@merry-shadow/core/solve/network-correction';

/** Digits that a 32-bit float needs to come back as it was. */
const DIGITS = 9;

/** A learned correction as a TypeScript module, a row of weights on each line. */
export function correctionText({ mean, deviation, layers }: Correction): string {
  const row = (values: Float32Array): string =>
    Array.from(values, (value) => String(Number(value.toPrecision(DIGITS)))).join(', ');
  const vector = (values: Float32Array): string => `Float32Array.of(${row(values)})`;
  return [
    '// Written by `./run train`; see docs/accuracy.md for what it brings.',
    "import type { Correction } from './network-correction';",
    '',
    '/** What the pose network gets wrong, learned from populations of made-up people. */',
    '// prettier-ignore',
    'export const LEARNED_CORRECTION: Correction = {',
    `  mean: ${vector(mean)},`,
    `  deviation: ${vector(deviation)},`,
    '  layers: [',
    ...layers.flatMap(({ rows, weights }) => [
      `    { rows: ${rows}, weights: Float32Array.of(`,
      ...Array.from({ length: rows }, (_, r) => {
        const width = weights.length / rows;
        return `      ${row(weights.subarray(r * width, (r + 1) * width))},`;
      }),
      '    ) },',
    ]),
    '  ],',
    '};',
    '',
  ].join('\n');
}
