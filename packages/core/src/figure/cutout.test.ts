import { describe, expect, it } from '@jest/globals';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { cutoutFigure } from './cutout';

const skeleton = humanoidSkeleton(averageProportions(1.75));
const figure = cutoutFigure(skeleton);
const vertices = figure.positions.length / 3;

describe('the cut-out figure', () => {
  it('is closed: each edge belongs to two triangles that run along it in opposite ways', () => {
    const edges = new Map<string, number>();
    for (let t = 0; t < figure.indices.length; t += 3)
      for (let k = 0; k < 3; k++) {
        const [a, b] = [figure.indices[t + k], figure.indices[t + ((k + 1) % 3)]];
        const key = a < b ? `${a} ${b}` : `${b} ${a}`;
        edges.set(key, (edges.get(key) ?? 0) + (a < b ? 1 : -1));
      }
    expect([...edges.values()].every((sum) => sum === 0)).toBe(true);
  });

  it('hangs each vertex on one bone and gives it a normal of length 1', () => {
    for (let v = 0; v < vertices; v++) {
      const weights = figure.weights.subarray(v * 4, v * 4 + 4);
      expect(weights.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 6);
      expect(figure.joints[v * 4]).toBeLessThan(skeleton.joints.length);
      expect(Math.hypot(...figure.normals.subarray(v * 3, v * 3 + 3))).toBeCloseTo(1, 4);
    }
  });

  it('is as tall as the body, stands on the floor, and tells its sides apart', () => {
    let [low, high] = [Infinity, -Infinity];
    for (let v = 0; v < vertices; v++) {
      low = Math.min(low, figure.positions[v * 3 + 1]);
      high = Math.max(high, figure.positions[v * 3 + 1]);
      const name = skeleton.joints[figure.joints[v * 4]].name;
      expect(figure.sides[v]).toBe(name.startsWith('left') ? 1 : name.startsWith('right') ? 2 : 0);
    }
    expect(Math.abs(low)).toBeLessThan(0.03);
    expect(high).toBeGreaterThan(1.65);
    expect(high).toBeLessThan(1.85);
  });
});
