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
    expect(correctionText(correction)).toContain('LEARNED_CORRECTION = readCorrection({');
  });

  it('is the same again', () => {
    const [a, b] = [0, 1].map(() => trainCorrection(faultless, [4]));
    expect(a.layers[1].weights).toEqual(b.layers[1].weights);
  });
  const faultless = faulty(20);
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
