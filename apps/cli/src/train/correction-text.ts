import type { Correction } from '@merry-shadow/core/solve/network-correction';

/** A learned correction as a TypeScript module: half-precision would do, but 32 bits keep it simple. */
export function correctionText({ mean, deviation, layers }: Correction): string {
  const text = (values: Float32Array): string => `'${Buffer.from(values.buffer).toString('base64')}'`;
  return [
    '// Written by `./run train`; see docs/accuracy.md for what it brings.',
    "import { readCorrection } from './read-correction';",
    '',
    '/** What the pose network gets wrong, learned from populations of made-up people. */',
    'export const LEARNED_CORRECTION = readCorrection({',
    `  mean: ${text(mean)},`,
    `  deviation: ${text(deviation)},`,
    '  layers: [',
    ...layers.map(({ rows, weights }) => `    { rows: ${rows}, weights: ${text(weights)} },`),
    '  ],',
    '});',
    '',
  ].join('\n');
}
