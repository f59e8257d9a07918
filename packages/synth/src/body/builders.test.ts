import { jointIndex, restPositions } from '@merry-shadow/core/motion/skeleton';
import { bodySkeleton } from '../choreography/figure-skeleton';
import { BUILDS, Performer, type Build } from '../choreography/script';
import { boneBinder } from './binding';
import { BODY_BUILDERS } from './builders';
import { dress, worn } from './dress';
import { material } from './materials';
import { oriented, subdivided, type Cage } from './subdivide';
import { mergeSurfaces, outward, type Surface } from './surface';
import { surfaceOf } from './tetrahedra';

/** Body and head of a performer as one surface, dressed; hands are the same for all recipes and left out. */
function built(build: Build, look: Partial<Performer['look']> = {}) {
  const performer = Performer.parse({ build, body: { height: 1.7 }, look: { cap: null, ...look } });
  const skeleton = bodySkeleton(performer.body);
  const { body, head } = BODY_BUILDERS[build].build(performer, skeleton);
  dress(body, performer, skeleton);
  const sheets = worn(performer, skeleton);
  return { skeleton, body, whole: mergeSurfaces([body, head(), ...sheets].map(({ surface }) => surface)) };
}

const most = (values: readonly number[]): number => values.reduce((a, b) => Math.max(a, b));
const least = (values: readonly number[]): number => values.reduce((a, b) => Math.min(a, b));

/** Volume inside a closed surface, by the divergence theorem. */
function volume(positions: ArrayLike<number>, triangles: ArrayLike<number>): number {
  let sum = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((i) => positions[triangles[t + k] * 3 + i]));
    sum += a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
  }
  return sum / 6;
}

describe.each(BUILDS)('a body built by the recipe %s', (build) => {
  const { skeleton, body, whole } = built(build);
  const count = whole.materials.length;

  it('is as tall as it is to be, stands on the floor and reaches to both wrists', () => {
    const along = (axis: number): number[] => Array.from({ length: count }, (_, v) => whole.positions[v * 3 + axis]);
    const [x, y] = [along(0), along(1)];
    expect(most(y)).toBeGreaterThan(1.62);
    expect(most(y)).toBeLessThan(1.82);
    expect(Math.abs(least(y))).toBeLessThan(0.03);
    expect(most(x)).toBeGreaterThan(0.65);
    expect(most(x) + least(x)).toBeCloseTo(0, 1);
  });

  it('has the volume of a person, and normals that look outwards', () => {
    const litres = volume(whole.positions, whole.triangles) * 1000;
    expect(litres).toBeGreaterThan(35);
    expect(litres).toBeLessThan(110);
    const { positions, normals, owners } = body.surface;
    const middle = restPositions(skeleton);
    const outwards = Array.from(owners.keys()).filter((v) => {
      const bone = jointIndex(skeleton, body.bone(owners[v])) * 3;
      const dot = [0, 1, 2].reduce((sum, k) => sum + normals[v * 3 + k] * (positions[v * 3 + k] - middle[bone + k]), 0);
      return dot > -0.02;
    });
    expect(outwards.length / owners.length).toBeGreaterThan(0.85);
  });

  it('moves each vertex with few bones whose shares are one', () => {
    const bind = boneBinder(skeleton);
    const { positions, owners } = body.surface;
    const wrong = Array.from(owners.keys()).filter((v) => {
      const owner = jointIndex(skeleton, body.bone(owners[v]));
      const shares = body.binding?.(v) ?? bind(owner, positions.subarray(v * 3, v * 3 + 3));
      const sum = shares.reduce((total, [, weight]) => total + weight, 0);
      return shares.length > 4 || Math.abs(sum - 1) > 1e-6 || shares.some(([, weight]) => weight < 0);
    });
    expect(wrong).toEqual([]);
  });

  it('wears what it is given', () => {
    const dressed = built(build, { sleeves: 0.2, barefoot: true, coat: 0.5, loose: 1 }).whole;
    const share = ({ materials }: Surface, name: 'skin' | 'shoes'): number =>
      materials.filter((mat) => mat === material(name)).length;
    expect(share(dressed, 'skin')).toBeGreaterThan(share(whole, 'skin'));
    expect(share(whole, 'shoes')).toBeGreaterThan(0);
    expect(share(dressed, 'shoes')).toBe(0);
    expect(dressed.materials.length).toBeGreaterThan(count);
    expect(volume(dressed.positions, dressed.triangles)).toBeGreaterThan(
      1.05 * volume(whole.positions, whole.triangles),
    );
  });
});

describe('meshes', () => {
  it('of a field are where it is zero', () => {
    const size = [33, 33, 33] as const;
    const values = new Float32Array(33 ** 3);
    for (let i = 0; i < values.length; i++) {
      const p = [i % 33, Math.floor(i / 33) % 33, Math.floor(i / 33 ** 2)].map((v) => v * 0.1 - 1.6);
      values[i] = 1 - Math.hypot(...p);
    }
    const { positions, triangles } = surfaceOf({ values, size, low: [-1.6, -1.6, -1.6], cell: 0.1 });
    const radii = Array.from({ length: positions.length / 3 }, (_, v) =>
      Math.hypot(positions[v * 3], positions[v * 3 + 1], positions[v * 3 + 2]),
    );
    expect(Math.min(...radii)).toBeGreaterThan(0.97);
    expect(Math.max(...radii)).toBeLessThan(1.03);
    expect(volume(positions, triangles)).toBeCloseTo((4 / 3) * Math.PI, 1);
  });

  const cube: Cage = {
    vertices: Array.from({ length: 8 }, (_, i) => [(i & 1) * 2 - 1, ((i >> 1) & 1) * 2 - 1, (i >> 2) * 2 - 1]),
    faces: [[0, 1, 3, 2], [4, 5, 7, 6], [0, 1, 5, 4], [2, 3, 7, 6], [0, 2, 6, 4], [1, 3, 7, 5]].map((corners) => ({ corners, material: 0, owner: 0 })), // prettier-ignore
  };

  it('of a cage grow round, with four times the faces each time', () => {
    const once = subdivided(oriented(cube));
    expect(once.faces).toHaveLength(24);
    expect(once.vertices).toHaveLength(26);
    const thrice = subdivided(subdivided(once));
    const radii = thrice.vertices.map(([x, y, z]) => Math.hypot(x, y, z));
    expect(Math.max(...radii) / Math.min(...radii)).toBeLessThan(1.25);
    const triangles = outward(
      Float32Array.from(thrice.vertices.flat()),
      thrice.faces.flatMap(({ corners: [a, b, c, d] }) => [a, b, c, a, c, d]),
    );
    expect(volume(thrice.vertices.flat(), triangles)).toBeGreaterThan(2);
    expect(volume(thrice.vertices.flat(), triangles)).toBeLessThan(8);
  });

  it('of a cage agree on which side is out', () => {
    const edges = new Set<string>();
    for (const { corners } of oriented(cube).faces)
      corners.forEach((corner, i) => edges.add(`${corner} ${corners[(i + 1) % corners.length]}`));
    // Each edge is gone along once each way.
    expect(edges.size).toBe(24);
  });

  it('are joined with their triangles', () => {
    const one = {
      positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0),
      normals: new Float32Array(9),
      materials: new Uint8Array(3),
      owners: Uint16Array.of(0, 1, 2),
      openness: new Float32Array(3),
      triangles: Uint32Array.of(0, 1, 2),
    };
    const both = mergeSurfaces([one, one]);
    expect(Array.from(both.triangles)).toEqual([0, 1, 2, 3, 4, 5]);
    expect(Array.from(both.owners)).toEqual([0, 1, 2, 0, 1, 2]);
  });
});
