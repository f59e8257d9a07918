import { CORRECTED, INPUTS, LOOKED_AT, OUTPUTS } from '@merry-shadow/core/solve/network-correction';
import { chance } from '@merry-shadow/synth/population/chance';
import { correctionText } from './correction-text';
import { mirrored, type Sample } from './samples';
import { rawAgainst, trainCorrection } from './train-correction';

const { around } = chance(3);

/** Bodies whose left knee the network sets too far ahead, the farther the more the left hip is aside. */
function faulty(count: number): Sample[] {
  const knee = CORRECTED.indexOf('leftKnee') * 3;
  return Array.from({ length: count }, (_, i) => {
    const input = Float32Array.from({ length: INPUTS }, () => around(0, 1));
    const joints = Float32Array.from({ length: OUTPUTS }, () => around(0, 0.2));
    const points = joints.slice();
    points[knee + 2] += 0.08 + 0.04 * input[LOOKED_AT.indexOf('leftHip') * 6];
    return { clip: `clip ${i % 4}`, input, points, joints };
  });
}

describe('learning a correction', () => {
  it('finds a planted fault, also in the mirror, and helps on frames it has not seen', () => {
    // Both knees have it in the mirror's eyes: each side's fault is learned from both.
    const both = (samples: Sample[]): Sample[] => samples.flatMap((sample) => [sample, mirrored(sample)]);
    const correction = trainCorrection(both(faulty(300)), []);
    expect(rawAgainst(faulty(60), correction)).toBeLessThan(0.9);
  });

  it('is the same again', () => {
    const [a, b] = [0, 1].map(() => trainCorrection(faultless, [4]));
    expect(a.layers[1].weights).toEqual(b.layers[1].weights);
  });
  const faultless = faulty(20);
});

describe('a learned correction as a file', () => {
  it('has each number so that it comes back to the bit', () => {
    const weights = Float32Array.from({ length: 6 }, () => around(0, 1) / 3);
    const text = correctionText({
      mean: Float32Array.of(0.1, -2e-7),
      deviation: Float32Array.of(1, 0),
      layers: [{ rows: 2, weights }],
    });
    const rows = /weights: Float32Array.of\(\n([^)]*)\)/.exec(text)?.[1].trim().split('\n') as string[];
    expect(rows).toHaveLength(2);
    const numbers = rows.flatMap((row) =>
      row
        .split(',')
        .filter((part) => part.trim() !== '')
        .map(Number),
    );
    expect(Float32Array.from(numbers)).toEqual(weights);
    expect(text).toContain('mean: Float32Array.of(0.100000001, ');
  });
});

describe('a frame in the mirror', () => {
  it('swaps left and right, turns over what lies aside, and comes back', () => {
    const [sample] = faulty(1);
    const other = mirrored(sample);
    const [left, right] = ['leftElbow', 'rightElbow'].map((mark) => CORRECTED.indexOf(mark as 'leftElbow') * 3);
    expect(other.joints[left]).toBeCloseTo(-sample.joints[right], 6);
    expect(other.joints[left + 1]).toBeCloseTo(sample.joints[right + 1], 6);
    expect(other.input[INPUTS - 2]).toBeCloseTo(-sample.input[INPUTS - 2], 6);
    expect(Array.from(mirrored(other).input)).toEqual(Array.from(sample.input));
  });
});
