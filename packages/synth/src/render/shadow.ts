import type { Light } from './light';
import { rasterise, visibilityBuffer, type VisibilityBuffer } from './raster';

const SIZE = 768;
const FLOOR = 512;
const FLOOR_METRES = 9;

/** Shadows of the performers on themselves (a depth map seen from the lamp) and, blurred, on the floor. */
export class ShadowMaps {
  private readonly map: VisibilityBuffer = visibilityBuffer(SIZE, SIZE);
  private readonly floor: VisibilityBuffer = visibilityBuffer(FLOOR, FLOOR);
  private readonly soft = new Float32Array(FLOOR * FLOOR);
  private readonly contact = new Float32Array(FLOOR * FLOOR);
  private readonly points: Float32Array[] = [];
  private centre: [number, number, number] = [0, 0, 0];
  private readonly axes: number[];
  private readonly span = 3.4;

  constructor(private readonly light: Light) {
    const [x, y, z] = light.toward;
    const right = [z, 0, -x].map((v) => v / Math.hypot(x, z));
    const up = [y * right[2] - z * right[1], z * right[0] - x * right[2], x * right[1] - y * right[0]];
    this.axes = [...right, ...up, x, y, z];
  }

  /** Draws the maps for posed meshes round a centre on the floor. */
  draw(meshes: readonly { positions: Float32Array; triangles: Uint32Array }[], centre: [number, number]): void {
    this.centre = [centre[0], 0.9, centre[1]];
    for (const buffer of [this.map, this.floor]) {
      buffer.depth.fill(-1e9);
      buffer.triangle.fill(-1);
    }
    meshes.forEach((mesh, m) => {
      const points = (this.points[m] ??= new Float32Array(mesh.positions.length));
      this.toLamp(mesh.positions, points);
      rasterise(this.map, points, mesh.triangles, 0);
      this.toFloor(mesh.positions, points, true);
      rasterise(this.floor, points, mesh.triangles, 0);
    });
    blur(this.floor.triangle, this.soft, 2);
    this.floor.triangle.fill(-1);
    this.floor.depth.fill(-1e9);
    meshes.forEach((mesh, m) => {
      this.toFloor(mesh.positions, this.points[m], false);
      rasterise(this.floor, this.points[m], mesh.triangles, 0);
    });
    for (let i = 0; i < this.contact.length; i++) if (this.floor.depth[i] < -0.16) this.floor.triangle[i] = -1;
    blur(this.floor.triangle, this.contact, 2);
  }

  private toLamp(positions: Float32Array, out: Float32Array): void {
    const a = this.axes;
    const scale = SIZE / this.span;
    for (let i = 0; i < positions.length; i += 3) {
      const dx = positions[i] - this.centre[0];
      const dy = positions[i + 1] - this.centre[1];
      const dz = positions[i + 2] - this.centre[2];
      out[i] = (a[0] * dx + a[1] * dy + a[2] * dz) * scale + SIZE / 2;
      out[i + 1] = (a[3] * dx + a[4] * dy + a[5] * dz) * scale + SIZE / 2;
      out[i + 2] = a[6] * dx + a[7] * dy + a[8] * dz + 100;
    }
  }

  /** Onto the floor along the light, or straight down with the height as depth. */
  private toFloor(positions: Float32Array, out: Float32Array, slanted: boolean): void {
    const [lx, ly, lz] = this.light.toward;
    const scale = FLOOR / FLOOR_METRES;
    for (let i = 0; i < positions.length; i += 3) {
      const y = positions[i + 1];
      const slide = slanted ? y / ly : 0;
      out[i] = (positions[i] - slide * lx - this.centre[0]) * scale + FLOOR / 2;
      out[i + 1] = (positions[i + 2] - slide * lz - this.centre[2]) * scale + FLOOR / 2;
      out[i + 2] = slanted ? 1 : -Math.max(1e-3, y);
    }
  }

  /** 1 in full light, 0 in the shadow of a performer. */
  lampAt(x: number, y: number, z: number): number {
    const a = this.axes;
    const scale = SIZE / this.span;
    const dx = x - this.centre[0];
    const dy = y - this.centre[1];
    const dz = z - this.centre[2];
    const u = (a[0] * dx + a[1] * dy + a[2] * dz) * scale + SIZE / 2;
    const v = (a[3] * dx + a[4] * dy + a[5] * dz) * scale + SIZE / 2;
    const depth = a[6] * dx + a[7] * dy + a[8] * dz + 100 + 0.02;
    let light = 0;
    for (let k = 0; k < 4; k++) {
      const iu = Math.floor(u + (k & 1) * 1.4 - 0.7);
      const iv = Math.floor(v + (k >> 1) * 1.4 - 0.7);
      if (iu < 0 || iv < 0 || iu >= SIZE || iv >= SIZE || this.map.depth[iv * SIZE + iu] < depth) light++;
    }
    return light / 4;
  }

  /** Light that is left on the floor: 1 none taken. @param shade what is left in full lamp shadow. */
  floorLight(x: number, z: number, shade: number): number {
    const scale = FLOOR / FLOOR_METRES;
    const u = (x - this.centre[0]) * scale + FLOOR / 2 - 0.5;
    const v = (z - this.centre[2]) * scale + FLOOR / 2 - 0.5;
    const iu = Math.floor(u);
    const iv = Math.floor(v);
    if (iu < 0 || iv < 0 || iu >= FLOOR - 1 || iv >= FLOOR - 1) return 1;
    const at = iv * FLOOR + iu;
    return (
      (1 - (1 - shade) * bilinear(this.soft, at, u - iu, v - iv)) *
      (1 - 0.45 * bilinear(this.contact, at, u - iu, v - iv))
    );
  }
}

function bilinear(m: Float32Array, at: number, fu: number, fv: number): number {
  return (m[at] * (1 - fu) + m[at + 1] * fu) * (1 - fv) + (m[at + FLOOR] * (1 - fu) + m[at + FLOOR + 1] * fu) * fv;
}

/** Covered texels to 0 … 1, softened by two box blurs within the covered area. */
function blur(covered: Int32Array, out: Float32Array, radius: number): void {
  let [x0, x1, y0, y1] = [FLOOR, 0, FLOOR, 0];
  for (let i = 0; i < covered.length; i++) {
    out[i] = covered[i] >= 0 ? 1 : 0;
    if (covered[i] < 0) continue;
    x0 = Math.min(x0, i % FLOOR);
    x1 = Math.max(x1, i % FLOOR);
    y0 = Math.min(y0, Math.floor(i / FLOOR));
    y1 = Math.max(y1, Math.floor(i / FLOOR));
  }
  const reach = 2 * radius + 1;
  [x0, x1, y0, y1] = [
    Math.max(0, x0 - reach),
    Math.min(FLOOR - 1, x1 + reach),
    Math.max(0, y0 - reach),
    Math.min(FLOOR - 1, y1 + reach),
  ];
  const line = new Float32Array(FLOOR);
  for (let pass = 0; pass < 2; pass++) {
    for (let y = y0; y <= y1; y++) boxLine(out, y * FLOOR, 1, x0, x1, radius, line);
    for (let x = x0; x <= x1; x++) boxLine(out, x, FLOOR, y0, y1, radius, line);
  }
}

function boxLine(
  values: Float32Array,
  start: number,
  step: number,
  from: number,
  to: number,
  radius: number,
  line: Float32Array,
): void {
  for (let i = from; i <= to; i++) line[i] = values[start + i * step];
  let sum = 0;
  for (let i = from - radius; i <= to; i++) {
    if (i + radius <= to) sum += line[i + radius];
    if (i - radius - 1 >= from) sum -= line[i - radius - 1];
    if (i >= from) values[start + i * step] = sum / (2 * radius + 1);
  }
}
