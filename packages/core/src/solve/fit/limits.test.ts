import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { restMotion } from '../../motion/motion';
import { BodyModel } from './body-model';
import { beyondHinge, LIMITS } from './limits';

describe('hinges', () => {
  it.each([0.061, 1, 2.7, 2 * Math.PI + 1])('are well at %s', (bend) => expect(beyondHinge(bend)).toBe(0));

  it('come back the short way, however far they went', () => {
    expect(beyondHinge(-0.4)).toBeCloseTo(0.46, 6);
    expect(beyondHinge(3)).toBeCloseTo(-0.3, 6);
    // A little more than a half turn: back by that little, not on by the rest of the turn.
    expect(beyondHinge(3.3)).toBeCloseTo(-0.6, 6);
    expect(beyondHinge(3.3 - 2 * Math.PI)).toBeCloseTo(-0.6, 6);
  });
});

describe('limits', () => {
  const motion = restMotion(humanoidSkeleton(averageProportions(1.7)), 1, 30);
  const model = new BodyModel(motion, 1.7);
  model.evaluate(0);
  const at = (name: string): number[] => {
    const p = model.points.findIndex((point) => point.name === name);
    return Array.from(model.places.subarray(p * 3, p * 3 + 3));
  };

  it.each(LIMITS.map((limit) => [limit.of.join(' '), limit] as const))('%s: a body at rest is within', (_, limit) => {
    const [from, to, otherFrom, otherTo] = limit.of.map(at);
    const [a, b] = [to.map((v, k) => v - from[k]), otherTo.map((v, k) => v - otherFrom[k])];
    const cosine = a.reduce((sum, v, k) => sum + v * b[k], 0) / (Math.hypot(...a) * Math.hypot(...b));
    expect(cosine).toBeGreaterThanOrEqual(limit.least);
    expect(cosine).toBeLessThanOrEqual(limit.most);
  });

  it('bound both sides alike', () => {
    const bare = LIMITS.map(({ of, ...bounds }) => ({
      of: of.map((name) => name.replace(/left|right/, '')),
      ...bounds,
    }));
    expect(bare.slice(0, bare.length / 2)).toEqual(bare.slice(bare.length / 2));
  });
});
