import type { Side } from '@merry-shadow/core/motion/humanoid';
import { jointIndex, restPositions, type Skeleton } from '@merry-shadow/core/motion/skeleton';
import { material } from './materials';
import type { Surface } from './surface';

/** Things held in a fist, as rigid meshes that leave it along the arm. */
class HeldThing {
  private readonly grip: number[];
  private readonly positions: number[] = [];
  private readonly materials: number[] = [];
  private readonly triangles: number[] = [];
  private readonly sign: number;
  private readonly scale: number;

  constructor(side: Side, skeleton: Skeleton, height: number) {
    this.scale = height / 1.75;
    const rest = restPositions(skeleton);
    const i = jointIndex(skeleton, `${side}Hand`) * 3;
    this.sign = side === 'left' ? 1 : -1;
    this.grip = [rest[i] + this.sign * 0.075 * this.scale, rest[i + 1] - 0.026 * this.scale, rest[i + 2]];
  }

  /** @param x along the arm, y upwards, z to the front, metres for a body of 1.75 m. */
  vertex(x: number, y: number, z: number, mat: number): number {
    this.positions.push(
      this.grip[0] + this.sign * x * this.scale,
      this.grip[1] + y * this.scale,
      this.grip[2] + z * this.scale,
    );
    this.materials.push(mat);
    return this.materials.length - 1;
  }

  triangle(a: number, b: number, c: number): void {
    this.triangles.push(a, b, c);
  }

  /** A round rod along the arm. */
  rod(from: number, until: number, radius: number, mat: number): void {
    const rings = [from, until].map((x) =>
      [0, 1, 2, 3, 4, 5].map((a) => this.vertex(x, radius * Math.cos(a * 1.047), radius * Math.sin(a * 1.047), mat)),
    );
    for (let a = 0; a < 6; a++) {
      const b = (a + 1) % 6;
      this.triangle(rings[0][a], rings[1][a], rings[1][b]);
      this.triangle(rings[0][a], rings[1][b], rings[0][b]);
    }
  }

  surface(): Surface {
    const normals = new Float32Array(this.positions.length);
    const count = this.materials.length;
    for (let v = 0; v < count; v++) normals[v * 3 + 2] = 1;
    return {
      positions: Float32Array.from(this.positions),
      normals,
      materials: Uint8Array.from(this.materials),
      owners: new Uint16Array(count),
      openness: new Float32Array(count).fill(1),
      triangles: Uint32Array.from(this.triangles),
    };
  }
}

/** The tight end of a rope that is hauled. */
export function ropeSurface(side: Side, skeleton: Skeleton, height: number): Surface {
  const rope = new HeldThing(side, skeleton, height);
  rope.rod(-0.14, 0.7, 0.013, material('stick'));
  return rope.surface();
}

/** A signal flag: a stick and a cloth parted corner to corner. */
export function flagSurface(side: Side, skeleton: Skeleton, height: number): Surface {
  const flag = new HeldThing(side, skeleton, height);
  flag.rod(-0.1, 0.5, 0.008, material('stick'));
  const cells = 8;
  const [x0, x1, width] = [0.16, 0.49, 0.33];
  for (let u = 0; u < cells; u++) {
    for (let v = 0; v < cells; v++) {
      const corner = (du: number, dv: number): number => {
        const [a, b] = [(u + du) / cells, (v + dv) / cells];
        const mat = material(u + v < cells ? 'flagRed' : 'flagWhite');
        return flag.vertex(x0 + (x1 - x0) * a, -0.006 - width * b, 0.014 * Math.sin(b * 5 + a * 2) * b, mat);
      };
      const [a, b, c, d] = [corner(0, 0), corner(1, 0), corner(1, 1), corner(0, 1)];
      flag.triangle(a, b, c);
      flag.triangle(a, c, d);
    }
  }
  return flag.surface();
}
