import type { PinholeCamera } from '@merry-shadow/core/camera/pinhole';

/** Which triangle is seen in each sample, and how far away. */
export interface VisibilityBuffer {
  width: number;
  height: number;
  depth: Float32Array;
  /** Triangle number, −1 for none. */
  triangle: Int32Array;
}

export function visibilityBuffer(width: number, height: number): VisibilityBuffer {
  return { width, height, depth: new Float32Array(width * height), triangle: new Int32Array(width * height) };
}

/**
 * Projects vertices into sample space.
 * @param scale samples for each pixel along one axis.
 * @returns vertices × 3: x, y in samples, 1 / distance (0 behind the camera).
 */
export function projectVertices(
  camera: PinholeCamera,
  positions: Float32Array,
  scale: number,
  out: Float32Array,
): void {
  const a = camera.axes;
  const [ox, oy, oz] = camera.position;
  for (let i = 0; i < positions.length; i += 3) {
    const dx = positions[i] - ox;
    const dy = positions[i + 1] - oy;
    const dz = positions[i + 2] - oz;
    const depth = -(a[6] * dx + a[7] * dy + a[8] * dz);
    if (depth < 0.05) {
      out[i + 2] = 0;
      continue;
    }
    const inverse = 1 / depth;
    out[i] = (camera.width / 2 + camera.focal * (a[0] * dx + a[1] * dy + a[2] * dz) * inverse) * scale;
    out[i + 1] = (camera.height / 2 - camera.focal * (a[3] * dx + a[4] * dy + a[5] * dz) * inverse) * scale;
    out[i + 2] = inverse;
  }
}

/** Draws triangles whose third coordinate grows towards the viewer; keeps the nearest. */
export function rasterise(buffer: VisibilityBuffer, points: Float32Array, triangles: Uint32Array, first: number): void {
  const { width, height, depth, triangle } = buffer;
  for (let t = 0; t < triangles.length; t += 3) {
    const a = triangles[t] * 3;
    const b = triangles[t + 1] * 3;
    const c = triangles[t + 2] * 3;
    const az = points[a + 2];
    const bz = points[b + 2];
    const cz = points[c + 2];
    if (az === 0 || bz === 0 || cz === 0) continue;
    const ax = points[a];
    const ay = points[a + 1];
    const bx = points[b];
    const by = points[b + 1];
    const cx = points[c];
    const cy = points[c + 1];
    const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (area === 0) continue;
    const x0 = Math.max(0, Math.ceil(Math.min(ax, bx, cx) - 0.5));
    const x1 = Math.min(width - 1, Math.floor(Math.max(ax, bx, cx) - 0.5));
    const y0 = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5));
    const y1 = Math.min(height - 1, Math.floor(Math.max(ay, by, cy) - 0.5));
    const inverse = 1 / area;
    for (let y = y0; y <= y1; y++) {
      const py = y + 0.5;
      for (let x = x0; x <= x1; x++) {
        const px = x + 0.5;
        const u = ((bx - px) * (cy - py) - (by - py) * (cx - px)) * inverse;
        const v = ((cx - px) * (ay - py) - (cy - py) * (ax - px)) * inverse;
        const w = 1 - u - v;
        if (u < 0 || v < 0 || w < 0) continue;
        const z = u * az + v * bz + w * cz;
        const at = y * width + x;
        if (z > depth[at]) {
          depth[at] = z;
          triangle[at] = first + t / 3;
        }
      }
    }
  }
}
