import { GAZE_CURVES } from '../face/gaze';
import { shapeCurve, type FaceShape } from '../face/face-shapes';
import type { Curve } from '../motion/motion';
import { measureFaceCurves } from './measure-face';
import type { Truth } from './truth';

const FRAMES = 60;
const wave = (turns: number): number[] =>
  Array.from({ length: FRAMES }, (_, frame) => 0.5 + 0.5 * Math.sin((turns * 2 * Math.PI * frame) / FRAMES));
/** Lids that close in some frames. */
const lids = (...frames: number[]): number[] =>
  Array.from({ length: FRAMES }, (_, frame) => (frames.some((one) => Math.abs(one - frame) < 2) ? 1 : 0));
const curve = (name: string, values: readonly number[]): Curve => ({ name, values: Float32Array.from(values) });
const told = (shape: FaceShape, values: readonly number[]): Curve => curve(shapeCurve(shape), values);

const truth = {
  rate: 30,
  face: {
    jawOpen: wave(2),
    mouthPucker: wave(3),
    jawLeft: wave(1),
    browInnerUp: wave(1).map((value) => value * 0.1),
    eyeBlinkLeft: lids(10, 30, 50),
  },
  gaze: wave(2).map((value) => [value, 0]),
} as unknown as Truth;

describe('the figures of a face', () => {
  it('tell how each curve goes with its truth, and 0 for what is never told', () => {
    const { correlation } = measureFaceCurves(
      [
        told('jawOpen', wave(2)),
        told(
          'mouthPucker',
          wave(3).map((value) => 1 - value),
        ),
        told('jawLeft', lids()),
        told('browInnerUp', wave(1)),
        curve(GAZE_CURVES.across, wave(2)),
        curve(GAZE_CURVES.up, wave(2)),
      ],
      truth,
    );
    expect(correlation.get('jawOpen')).toBeCloseTo(1);
    expect(correlation.get('mouthPucker')).toBeCloseTo(-1);
    expect(correlation.get('jawLeft')).toBe(0);
    expect(correlation.get('gaze across')).toBeCloseTo(1);
    // What the clip hardly makes tells nothing.
    expect(correlation.has('browInnerUp')).toBe(false);
    expect(correlation.has('gaze up')).toBe(false);
  });

  it('count blinks that are found, and those that are none', () => {
    expect(measureFaceCurves([told('eyeBlinkLeft', lids(11, 31, 20))], truth).blinks).toEqual({
      true: 3,
      found: 2,
      false: 1,
    });
  });

  it('begin at the frame of the truth that they are told to', () => {
    const { correlation } = measureFaceCurves([told('jawOpen', wave(2).slice(10))], truth, 10);
    expect(correlation.get('jawOpen')).toBeCloseTo(1);
  });
});
