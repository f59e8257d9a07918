import { focalFromFieldOfView } from '@merry-shadow/core/camera/pinhole';
import type { Truth } from '@merry-shadow/core/measure/truth';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import { contactF1 } from './contact-f1';
import { fieldOfViewOf } from './measured-clips';
import { tableLine } from './table';

const SOLES = ['leftHeel', 'leftToe', 'rightHeel', 'rightToe'] as const;
const all = <T>(value: T) => Object.fromEntries(SOLES.map((name) => [name, value]));
const told = (weights: number[] | null): SolvedTake =>
  ({ contacts: weights && all(Float64Array.from(weights)) }) as unknown as SolvedTake;
const truth = { contacts: all([1, 1, 0, 0]), camera: { width: 640, height: 360, focal: 500 } } as unknown as Truth;

describe('contacts against the truth', () => {
  it('are right, half right or wrong', () => {
    expect(contactF1(told([0.3, 1, 0, 0]), truth)).toBe(1);
    // One found, one missed, one too many.
    expect(contactF1(told([1, 0, 1, 0]), truth)).toBeCloseTo(0.5, 9);
    expect(contactF1(told([0, 0, 1, 1]), truth)).toBe(0);
    expect(contactF1(told(null), truth)).toBeNaN();
  });
});

describe('what is printed', () => {
  it('is a line of a table', () => expect(tableLine(['clip', '1.0'])).toBe('| clip | 1.0 |\n'));

  it('is measured with the lens of the truth', () =>
    expect(focalFromFieldOfView(fieldOfViewOf(truth), 640, 360)).toBeCloseTo(500, 6));
});
