import { likeliestCourse } from './likeliest';

const never = new Float64Array(12);

describe('the likeliest course', () => {
  it('follows the evidence, but for what is too short to pay for two changes', () => {
    const evidence = Float64Array.of(2, 2, 2, -1, 2, 2, -2, -2, -2, -2, 1, -2);
    expect([...likeliestCourse(evidence, 1, never, 1)[0]]).toEqual([1, 1, 1, 1, 1, 1, 0, 0, 0, 0, 0, 0]);
    expect([...likeliestCourse(evidence, 1, never, 0.1)[0]]).toEqual([1, 1, 1, 0, 1, 1, 0, 0, 0, 0, 1, 0]);
  });

  it('keeps one of several on where being all off costs more than what speaks against it', () => {
    const evidence = Float64Array.from({ length: 24 }, (_, i) => (i % 2 === 0 ? -1 : -2));
    const costly = new Float64Array(12).fill(1.5);
    const [first, second] = likeliestCourse(evidence, 2, costly, 0.5);
    expect(first.every((flag) => flag === 1)).toBe(true);
    expect(second.every((flag) => flag === 0)).toBe(true);
    expect(likeliestCourse(evidence, 2, never, 0.5)[0].includes(1)).toBe(false);
  });

  it('of nothing is nothing', () => {
    expect(likeliestCourse(new Float64Array(0), 2, new Float64Array(0), 1).map((course) => course.length)).toEqual([
      0, 0,
    ]);
  });
});
