import type { LearnedMap } from '@merry-shadow/core/solve/network/learned-map';
import type { Correction } from '@merry-shadow/core/solve/network/network-correction';

/** Digits that are written: what is learned is not known better. */
const DIGITS = 5;

/** A learned correction as a TypeScript module, a row of weights on each line. */
export function correctionText({ camera, body, share }: Correction): string {
  return [
    '// Written by `./run train`; see docs/accuracy.md for what it brings.',
    "import type { Correction } from './network-correction';",
    '',
    'const row = (...values: number[]): Float32Array => Float32Array.from(values);',
    '',
    '/** What the pose network gets wrong, learned from populations of made-up people. */',
    '// prettier-ignore',
    'export const LEARNED_CORRECTION: Correction = {',
    ...mapText('camera', camera),
    ...mapText('body', body),
    `  share: ${share},`,
    '};',
    '',
  ].join('\n');
}

function mapText(name: string, { mean, scale, linear, centres, bells, narrow }: LearnedMap): string[] {
  const row = (values: Float32Array): string =>
    `row(${Array.from(values, (value) => String(Number(value.toPrecision(DIGITS)))).join(', ')})`;
  const rows = (part: string, list: readonly Float32Array[]): string[] => [
    `    ${part}: [`,
    ...list.map((values) => `      ${row(values)},`),
    '    ],',
  ];
  return [
    `  ${name}: {`,
    `    mean: ${row(mean)},`,
    `    scale: ${row(scale)},`,
    ...rows('linear', linear),
    ...rows('centres', centres),
    ...rows('bells', bells),
    `    narrow: ${narrow},`,
    '  },',
  ];
}
