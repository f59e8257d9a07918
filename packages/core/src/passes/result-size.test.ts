import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { restMotion } from '../motion/motion';
import { PASSES } from './registry';
import { checkResultLength, MOST_FRAMES, ResultTooLongError } from './result-size';
import { PassStep, runPass } from './run-passes';

const motion = restMotion(humanoidSkeleton(averageProportions(1.7)), 91, 25);
const step = (pass: string, options: object = {}, more: object = {}): PassStep =>
  PassStep.parse({ pass, options, ...more });
const context = { bridged: null };

describe('the length that passes make', () => {
  it('is told by each pass that changes the timing as it makes it', () => {
    const tried: Record<string, object[]> = {
      'mirror-motion': [{}],
      'blend-ends': [{}, { in: 3, out: 0 }],
      trim: [{}, { start: 0.4 }, { start: 1.23, end: 0.5 }, { start: 600 }, { end: 600 }],
      'close-loop': [{}, { blend: 0.5, travels: false }, { blend: 3 }],
      retime: [{}, { speed: 10 }, { speed: 33 }, { speed: 1000 }],
      resample: [{}, { rate: 1 }, { rate: 24 }, { rate: 240 }],
    };
    const timing = PASSES.filter((pass) => pass.timing);
    expect(timing.map(({ name }) => name).sort()).toEqual(Object.keys(tried).sort());
    for (const pass of timing)
      for (const options of tried[pass.name]) {
        const made = runPass(motion, step(pass.name, options), context);
        expect(pass.length?.(motion, pass.options.parse(options))).toEqual({ frames: made.frames, rate: made.rate });
      }
  });

  it('is refused before anything is made, with its size, but not what shrinks again', () => {
    const slow = step('retime', { speed: 10 });
    expect(() => checkResultLength(motion, [slow, slow, slow])).not.toThrow();
    expect(() => checkResultLength(motion, [slow, slow, slow, slow])).toThrow(ResultTooLongError);
    expect(() => checkResultLength(motion, [slow, slow, slow, slow])).toThrow('900001 frames of 91 (about 378 MB)');
    expect(checkResultLength(motion, [slow, step('trim', { start: 1 })])).toEqual({ frames: 876, rate: 25 });
  });

  it('of a take that is long by itself is left alone', () => {
    const long = { frames: MOST_FRAMES * 3, rate: 30 };
    expect(() => checkResultLength(long, [step('trim', { start: 1 })])).not.toThrow();
    expect(() => checkResultLength(long, [step('retime', { speed: 99 })])).toThrow(ResultTooLongError);
  });
});
