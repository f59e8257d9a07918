import { jointIndex, type Skeleton } from '@merry-shadow/core/motion/skeleton';
import { SIDES } from '@merry-shadow/core/motion/humanoid';
import { material } from './materials';
import type { Binding, BodyBuilder, FigurePart } from './part';
import { mix, plus, restBody, type RestBody } from './rest-joints';
import type { Vec } from './shapes';
import { surfaceOf } from './tetrahedra';

/** A muscle, a bone or some fat: a soft cloud about a line, whose skin alone would lie `radius` from it. */
interface Belly {
  a: Vec;
  b: Vec;
  radius: number;
  /** Against round: below 1 flatter from front to back. */
  depth: number;
  bone: string;
  material: number;
}

/** Where a cloud's density counts no more, in radii, and the density of the skin. */
const REACH = 2.3;
const SKIN = 0.5;
/** Clouds that lie over each other add up; how much slimmer each is drawn for it. */
const CROWDED = 0.86;

/**
 * Bodies of muscles: clouds along bones that add up, the skin where their density is a half (J. Blinn, "A generalization of
 * algebraic surface drawing", 1982), meshed by marching tetrahedra. A vertex moves with all bones whose clouds reach it, by their share.
 */
export const muscled: BodyBuilder = (performer, skeleton) => {
  const rest = restBody(performer, skeleton);
  return {
    body: grown(
      [...trunk(rest), ...SIDES.flatMap((side) => [...arm(rest, side), ...leg(rest, side)])],
      0.0125,
      skeleton,
    ),
    head: () => ({ ...grown(head(rest), 0.0052, skeleton), face: true }),
  };
};

function trunk({ joint, s, g }: RestBody): Belly[] {
  const [hips, spine, chest, upper, neck] = ['hips', 'spine', 'chest', 'upperChest', 'neck'].map(joint);
  const shoulder = joint('leftUpperArm')[0];
  const hip = joint('leftUpperLeg')[0];
  const [shirt, trousers, skin] = [material('shirt'), material('trousers'), material('skin')];
  const belly = (a: Vec, b: Vec, radius: number, bone: string, mat: number, depth = 0.8): Belly => ({
    a,
    b,
    radius: radius * g,
    depth,
    bone,
    material: mat,
  });
  return [
    belly(plus(hips, -hip * 0.75, 0.0, 0), plus(hips, hip * 0.75, 0.0, 0), 0.098, 'hips', trousers, 0.95),
    belly(plus(hips, -0.045 * s, 0.06 * s, 0), plus(hips, 0.045 * s, 0.06 * s, 0), 0.095, 'hips', trousers, 0.9),
    belly(plus(spine, -0.04 * s, 0.02 * s, 0.008), plus(spine, 0.04 * s, 0.02 * s, 0.008), 0.092, 'spine', shirt, 0.86),
    belly(plus(chest, -0.05 * s, 0, 0), plus(chest, 0.05 * s, 0, 0), 0.098, 'chest', shirt, 0.88),
    belly(plus(upper, -0.06 * s, -0.01 * s, 0), plus(upper, 0.06 * s, -0.01 * s, 0), 0.1, 'upperChest', shirt, 0.88),
    ...[-1, 1].flatMap((k) => [
      // Chest, shoulder blade, trapezius.
      belly(
        plus(upper, k * 0.05 * s, 0.02 * s, 0.045 * s),
        plus(upper, k * shoulder * 0.7, 0.04 * s, 0.03 * s),
        0.055,
        'upperChest',
        shirt,
        0.8,
      ),
      belly(
        plus(upper, k * 0.06 * s, 0, -0.05 * s),
        plus(upper, k * 0.085 * s, 0.07 * s, -0.05 * s),
        0.055,
        'upperChest',
        shirt,
        0.7,
      ),
      belly(
        plus(neck, k * 0.025 * s, -0.005 * s, -0.012 * s),
        [k * shoulder * 0.85, neck[1] - 0.065 * s, neck[2] - 0.01 * s],
        0.042,
        'upperChest',
        shirt,
        1,
      ),
    ]),
    belly(plus(neck, 0, -0.02 * s, -0.008 * s), plus(neck, 0, 0.07 * s, 0), 0.058 / (g / s), 'neck', skin, 1),
  ];
}

function arm({ joint, s, g }: RestBody, side: 'left' | 'right'): Belly[] {
  const [shoulder, elbow, wrist] = ['UpperArm', 'LowerArm', 'Hand'].map((part) => joint(side + part));
  const k = side === 'left' ? 1 : -1;
  const belly = (a: Vec, b: Vec, radius: number, part: string, mat = material('shirt')): Belly => ({
    a,
    b,
    radius: radius * g,
    depth: 1,
    bone: side + part,
    material: mat,
  });
  const off = (p: Vec, y: number, z: number): Vec => plus(p, 0, y * s, z * s);
  return [
    belly(plus(shoulder, -k * 0.035 * s, 0.004 * s, 0), plus(shoulder, k * 0.01 * s, 0, 0), 0.06, 'Shoulder'),
    belly(plus(shoulder, k * 0.015 * s, 0.006 * s, 0), mix(shoulder, elbow, 0.4), 0.05, 'UpperArm'),
    belly(off(mix(shoulder, elbow, 0.3), 0, 0.016), off(mix(shoulder, elbow, 0.75), 0, 0.012), 0.04, 'UpperArm'),
    belly(off(mix(shoulder, elbow, 0.3), 0, -0.016), off(mix(shoulder, elbow, 0.7), 0, -0.014), 0.04, 'UpperArm'),
    belly(mix(shoulder, elbow, 0.6), mix(shoulder, elbow, 0.98), 0.042, 'UpperArm'),
    belly(elbow, mix(elbow, wrist, 0.3), 0.042, 'LowerArm'),
    belly(off(mix(elbow, wrist, 0.15), 0.008, 0.01), off(mix(elbow, wrist, 0.45), 0, 0.008), 0.036, 'LowerArm'),
    belly(mix(elbow, wrist, 0.35), mix(elbow, wrist, 0.93), 0.034, 'LowerArm'),
  ];
}

function leg({ joint, s, g }: RestBody, side: 'left' | 'right'): Belly[] {
  const [hip, knee, ankle, toes] = ['UpperLeg', 'LowerLeg', 'Foot', 'Toes'].map((part) => joint(side + part));
  const k = side === 'left' ? 1 : -1;
  const [trousers, shoes] = [material('trousers'), material('shoes')];
  const belly = (a: Vec, b: Vec, radius: number, part: string, mat = trousers, depth = 1): Belly => ({
    a,
    b,
    radius: mat === shoes ? radius * s : radius * g,
    depth,
    bone: side + part,
    material: mat,
  });
  const off = (p: Vec, x: number, z: number): Vec => plus(p, k * x * s, 0, z * s);
  const sole = (x: number, z: number, tall: number): Vec => [ankle[0] + k * x * s, tall * s, z];
  return [
    belly(
      plus(hip, k * 0.01 * s, -0.005 * s, -0.05 * s),
      plus(hip, k * 0.012 * s, -0.05 * s, -0.045 * s),
      0.078,
      'UpperLeg',
    ),
    belly(off(mix(hip, knee, 0.08), 0.018, 0.012), off(mix(hip, knee, 0.6), 0.01, 0.014), 0.072, 'UpperLeg'),
    belly(off(mix(hip, knee, 0.15), 0.008, -0.026), off(mix(hip, knee, 0.7), 0, -0.014), 0.062, 'UpperLeg'),
    belly(mix(hip, knee, 0.62), mix(hip, knee, 0.97), 0.06, 'UpperLeg'),
    belly(off(knee, 0, 0.01), off(mix(knee, ankle, 0.1), 0, 0.004), 0.052, 'LowerLeg'),
    belly(off(mix(knee, ankle, 0.12), 0.014, -0.022), off(mix(knee, ankle, 0.42), 0.008, -0.02), 0.046, 'LowerLeg'),
    belly(off(mix(knee, ankle, 0.12), -0.016, -0.022), off(mix(knee, ankle, 0.45), -0.008, -0.018), 0.046, 'LowerLeg'),
    belly(mix(knee, ankle, 0.2), mix(knee, ankle, 0.9), 0.042, 'LowerLeg'),
    belly(mix(knee, ankle, 0.93), plus(ankle, 0, -0.01 * s, 0), 0.044, 'Foot', shoes),
    belly(sole(0, ankle[2] - 0.03 * s, 0.036), sole(0, ankle[2] + 0.03 * s, 0.04), 0.04, 'Foot', shoes),
    belly(sole(0.002, ankle[2] + 0.02 * s, 0.044), sole(0.006, toes[2] - 0.01 * s, 0.034), 0.04, 'Foot', shoes),
    belly(sole(0.012, toes[2], 0.029), sole(0.004, toes[2] + 0.045 * s, 0.027), 0.034, 'Toes', shoes),
    belly(sole(-0.014, toes[2] - 0.01 * s, 0.029), sole(-0.01, toes[2] + 0.05 * s, 0.027), 0.032, 'Toes', shoes),
  ];
}

function head({ joint, h }: RestBody): Belly[] {
  const centre = joint('head');
  const at = (x: number, y: number, z: number): Vec => plus(centre, x * h, y * h, z * h);
  const belly = (a: Vec, b: Vec, radius: number, name: 'skin' | 'hair' = 'skin', depth = 1): Belly => ({
    a,
    b,
    radius: radius * h,
    depth,
    bone: 'head',
    material: material(name),
  });
  return [
    belly(at(0, 0.095, -0.022), at(0, 0.1, 0.02), 0.08),
    belly(at(0, 0.045, 0.035), at(0, 0.075, 0.035), 0.066),
    belly(at(-0.022, -0.01, 0.05), at(0.022, -0.01, 0.05), 0.036),
    belly(at(0, -0.028, 0.07), at(0, -0.024, 0.074), 0.024),
    belly(at(0, 0.076, 0.094), at(0, 0.038, 0.106), 0.012),
    belly(at(-0.01, 0.034, 0.1), at(0.01, 0.034, 0.1), 0.0105),
    belly(at(-0.03, 0.093, 0.078), at(0.03, 0.093, 0.078), 0.016),
    belly(at(-0.036, 0.045, 0.066), at(-0.036, 0.045, 0.066), 0.026),
    belly(at(0.036, 0.045, 0.066), at(0.036, 0.045, 0.066), 0.026),
    belly(at(0, 0.006, 0.08), at(0, 0.006, 0.084), 0.017),
    belly(at(0.076, 0.045, -0.006), at(0.08, 0.075, -0.01), 0.012),
    belly(at(-0.076, 0.045, -0.006), at(-0.08, 0.075, -0.01), 0.012),
    belly(at(0, 0.125, -0.03), at(0, 0.135, 0.03), 0.074, 'hair'),
    belly(at(0, 0.05, -0.05), at(0, 0.09, -0.06), 0.07, 'hair'),
    belly(joint('neck'), at(0, 0.02, 0), 0.056),
  ];
}

/** Distance to a belly's line in radii, squared; flat ones are nearer in front and behind. */
function squareTo({ a, b, radius, depth }: Belly, x: number, y: number, z: number): number {
  const ab = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
  const [px, py, pz] = [x - a[0], y - a[1], z - a[2]];
  const length = ab[0] * ab[0] + ab[1] * ab[1] + ab[2] * ab[2];
  const t = length > 0 ? Math.min(1, Math.max(0, (px * ab[0] + py * ab[1] + pz * ab[2]) / length)) : 0;
  const dz = (pz - ab[2] * t) / depth;
  return ((px - ab[0] * t) ** 2 + (py - ab[1] * t) ** 2 + dz * dz) / (radius * CROWDED) ** 2;
}

const density = (square: number): number => (square < REACH * REACH ? Math.exp(-Math.LN2 * square) : 0);

function grown(bellies: readonly Belly[], cell: number, skeleton: Skeleton): FigurePart {
  const [low, high] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (const { a, b, radius } of bellies)
    for (let k = 0; k < 3; k++) {
      low[k] = Math.min(low[k], a[k] - radius * REACH, b[k] - radius * REACH);
      high[k] = Math.max(high[k], a[k] + radius * REACH, b[k] + radius * REACH);
    }
  const size = low.map((from, k) => Math.ceil((high[k] - from) / cell) + 1) as [number, number, number];
  const values = new Float32Array(size[0] * size[1] * size[2]).fill(-SKIN);
  for (const belly of bellies) {
    const reach = belly.radius * REACH;
    const [from, to] = [Math.min, Math.max].map((pick, end) =>
      [0, 1, 2].map((k) => {
        const edge = pick(belly.a[k], belly.b[k]) + (end ? reach : -reach);
        return Math.min(size[k] - 1, Math.max(0, Math.round((edge - low[k]) / cell)));
      }),
    );
    for (let z = from[2]; z <= to[2]; z++)
      for (let y = from[1]; y <= to[1]; y++)
        for (let x = from[0]; x <= to[0]; x++)
          values[x + size[0] * (y + size[1] * z)] += density(
            squareTo(belly, low[0] + x * cell, low[1] + y * cell, low[2] + z * cell),
          );
  }
  const { positions, normals, triangles } = surfaceOf({ values, size, low, cell });
  const count = positions.length / 3;
  const owners = new Uint16Array(count);
  const bindings: Binding[] = [];
  for (let v = 0; v < count; v++) {
    const shares = bellies.map((belly) =>
      density(squareTo(belly, positions[v * 3], positions[v * 3 + 1], positions[v * 3 + 2])),
    );
    owners[v] = shares.indexOf(Math.max(...shares));
    bindings.push(strongest(bellies, shares, skeleton));
  }
  return {
    surface: {
      positions,
      normals,
      materials: Uint8Array.from(owners, (owner) => bellies[owner].material),
      owners,
      openness: new Float32Array(count).fill(0.95),
      triangles: Uint32Array.from(triangles),
    },
    bone: (owner) => bellies[owner].bone,
    binding: (vertex) => bindings[vertex],
  };
}

/** The four bones whose clouds are densest at a place; squares of their shares, so that joints stay short. */
function strongest(bellies: readonly Belly[], shares: readonly number[], skeleton: Skeleton): Binding {
  const sums = new Map<number, number>();
  bellies.forEach(({ bone }, i) => {
    const joint = jointIndex(skeleton, bone);
    sums.set(joint, (sums.get(joint) ?? 0) + shares[i]);
  });
  const best = [...sums].sort((a, b) => b[1] - a[1]).slice(0, 4);
  const total = best.reduce((sum, [, share]) => sum + share * share, 0);
  return best.map(([joint, share]) => [joint, (share * share) / total]);
}
