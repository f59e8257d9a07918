/**
 * Signed-distance shapes for bodies and their blending.
 *
 * Ellipsoids use the first-order bound k0(k0−1)/k1, round cones the exact distance, and shapes
 * join by the polynomial smooth minimum (all from I. Quilez, "Distance functions").
 */
export type Vec = readonly [number, number, number];

export interface Shape {
  kind: 'ellipsoid' | 'cone';
  /** Centre of an ellipsoid, or the first end of a cone. */
  a: Vec;
  /** Half axes of an ellipsoid, or the second end of a cone. */
  b: Vec;
  /** Radii at both ends of a cone. */
  radii?: readonly [number, number];
  /** Flattens a cone's section along z: 1 round. */
  flat?: number;
  /** Index into the materials. */
  material: number;
  /** Name of the bone it moves with. */
  bone: string;
  /** Width of the blend with its neighbours, metres. */
  blend: number;
}

export function shapeDistance(shape: Shape, x: number, y: number, z: number): number {
  const { a, b } = shape;
  if (shape.kind === 'ellipsoid') {
    const px = (x - a[0]) / b[0];
    const py = (y - a[1]) / b[1];
    const pz = (z - a[2]) / b[2];
    const k0 = Math.sqrt(px * px + py * py + pz * pz);
    const qx = px / b[0];
    const qy = py / b[1];
    const qz = pz / b[2];
    const k1 = Math.sqrt(qx * qx + qy * qy + qz * qz);
    return k1 < 1e-9 ? -Math.min(b[0], b[1], b[2]) : (k0 * (k0 - 1)) / k1;
  }
  const [r1, r2] = shape.radii ?? [0.05, 0.05];
  const flat = shape.flat ?? 1;
  const pz = a[2] + (z - a[2]) / flat;
  const bx = b[0] - a[0];
  const by = b[1] - a[1];
  const bz = b[2] - a[2];
  const length2 = bx * bx + by * by + bz * bz;
  const ax = x - a[0];
  const ay = y - a[1];
  const az = pz - a[2];
  const along = (ax * bx + ay * by + az * bz) / length2;
  const t = along < 0 ? 0 : along > 1 ? 1 : along;
  const dx = ax - bx * t;
  const dy = ay - by * t;
  const dz = az - bz * t;
  return (Math.sqrt(dx * dx + dy * dy + dz * dz) - (r1 + (r2 - r1) * t)) * Math.min(1, flat);
}

/** The box round a shape: low corner, high corner. */
export function shapeBox(shape: Shape): [Vec, Vec] {
  const { a, b } = shape;
  if (shape.kind === 'ellipsoid') {
    return [
      [a[0] - b[0], a[1] - b[1], a[2] - b[2]],
      [a[0] + b[0], a[1] + b[1], a[2] + b[2]],
    ];
  }
  const r = Math.max(...(shape.radii ?? [0.05, 0.05])) * Math.max(1, shape.flat ?? 1);
  const low = [0, 1, 2].map((i) => Math.min(a[i], b[i]) - r);
  const high = [0, 1, 2].map((i) => Math.max(a[i], b[i]) + r);
  return [low as unknown as Vec, high as unknown as Vec];
}

/** Polynomial smooth minimum of two distances. */
export function smoothMinimum(a: number, b: number, k: number): number {
  const h = Math.max(k - Math.abs(a - b), 0) / k;
  return Math.min(a, b) - h * h * k * 0.25;
}
