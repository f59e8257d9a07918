import type { Vec } from './shapes';

export const plus = (p: Vec, x: number, y: number, z: number): Vec => [p[0] + x, p[1] + y, p[2] + z];
export const mix = (a: Vec, b: Vec, t: number): Vec => [0, 1, 2].map((i) => a[i] + (b[i] - a[i]) * t) as unknown as Vec;

export const minus = (a: Vec, b: Vec): Vec => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const scaled = (v: Vec, by: number): Vec => [v[0] * by, v[1] * by, v[2] * by];
export const unit = (v: Vec): Vec => scaled(v, 1 / Math.hypot(...v));
export const cross = (a: Vec, b: Vec): Vec => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
