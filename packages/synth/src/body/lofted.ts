import { SIDES } from '@merry-shadow/core/motion/humanoid';
import { material } from './materials';
import type { BodyBuilder, FigurePart } from './part';
import { mix, plus, restBody, type RestBody } from './rest-joints';
import type { Vec } from './shapes';
import { closedSurface, mergeSurfaces, rowsJoined, type Surface } from './surface';

/** A cross-section: its middle, half its width, how far it reaches to the front and to the back. */
interface Ring {
  at: Vec;
  half: number;
  front: number;
  back: number;
  bone: string;
  material: number;
}

const SEGMENTS = 20;
/** Rings that are put in between two given ones. */
const BETWEEN = 3;

/** Directions that a section's width and front lie along. */
interface Section {
  wide: Vec;
  front: Vec;
}

/**
 * Bodies lofted through cross-sections: trunk, limbs, feet and head are closed tubes of quads that overlap where
 * they meet, without any blending; sections are superellipses (G. Lamé, 1818).
 */
export const lofted: BodyBuilder = (performer, skeleton) => {
  const rest = restBody(performer, skeleton);
  const names: string[] = [];
  const tubes = [trunk(rest), ...SIDES.flatMap((side) => [arm(rest, side), leg(rest, side), foot(rest, side)])];
  const body = mergeSurfaces(tubes.map(({ rings, section }) => loft(rings, section, 2.3, names)));
  return { body: { surface: body, bone: (owner) => names[owner] }, head: () => skull(rest) };
};

function skull(rest: RestBody): FigurePart {
  const names: string[] = [];
  const { rings, section } = head(rest);
  const surface = loft(rings, section, 2.1, names);
  raiseNose(surface, rest);
  paintHair(surface, rest);
  return { surface, bone: (owner) => names[owner], face: true };
}

interface Tube {
  rings: Ring[];
  section: Section;
}

const ALONG_Y: Section = { wide: [1, 0, 0], front: [0, 0, 1] };
const ALONG_X: Section = { wide: [0, 1, 0], front: [0, 0, 1] };
const ALONG_Z: Section = { wide: [1, 0, 0], front: [0, 1, 0] };

function trunk({ joint, s, g }: RestBody): Tube {
  const [hips, spine, chest, upper, neck] = ['hips', 'spine', 'chest', 'upperChest', 'neck'].map(joint);
  const shoulder = joint('leftUpperArm')[0];
  const hip = joint('leftUpperLeg')[0];
  const [shirt, trousers] = [material('shirt'), material('trousers')];
  const ring = (at: Vec, half: number, front: number, back: number, bone: string, mat: number): Ring => ({
    at,
    half,
    front: front * g,
    back: back * g,
    bone,
    material: mat,
  });
  return {
    section: ALONG_Y,
    rings: [
      ring(plus(hips, 0, -0.105 * s, -0.01 * s), 0.06 * g, 0.05, 0.06, 'hips', trousers),
      ring(plus(hips, 0, -0.06 * s, -0.008 * s), hip + 0.062 * g, 0.095, 0.125, 'hips', trousers),
      ring(plus(hips, 0, 0.01 * s, 0), hip + 0.07 * g, 0.105, 0.125, 'hips', trousers),
      ring(plus(hips, 0, 0.075 * s, 0), 0.15 * g, 0.1, 0.1, 'hips', material('belt')),
      ring(plus(spine, 0, 0.045 * s, 0), 0.134 * g, 0.092, 0.084, 'spine', shirt),
      ring(plus(chest, 0, 0.05 * s, 0), 0.15 * g, 0.108, 0.094, 'chest', shirt),
      ring(plus(upper, 0, 0.02 * s, 0), shoulder * 0.9, 0.114, 0.104, 'upperChest', shirt),
      ring(plus(upper, 0, 0.085 * s, -0.01 * s), shoulder * 0.84, 0.085, 0.086, 'upperChest', shirt),
      ring(plus(neck, 0, -0.012 * s, -0.012 * s), 0.072 * s, 0.06, 0.062, 'upperChest', shirt),
      ring(plus(neck, 0, 0.02 * s, -0.004 * s), 0.058 * s, 0.054, 0.054, 'neck', material('skin')),
      ring(plus(neck, 0, 0.075 * s, 0.004 * s), 0.054 * s, 0.05, 0.05, 'neck', material('skin')),
    ],
  };
}

function arm({ joint, s, g }: RestBody, side: 'left' | 'right'): Tube {
  const [collar, shoulder, elbow, wrist] = ['Shoulder', 'UpperArm', 'LowerArm', 'Hand'].map((part) =>
    joint(side + part),
  );
  const shirt = material('shirt');
  const ring = (at: Vec, half: number, front: number, part: string, mat = shirt): Ring => ({
    at,
    half,
    front,
    back: front,
    bone: side + part,
    material: mat,
  });
  return {
    section: ALONG_X,
    rings: [
      ring(mix(collar, shoulder, 0.35), 0.06 * g, 0.062 * g, 'Shoulder'),
      ring(mix(collar, shoulder, 0.85), 0.068 * g, 0.066 * g, 'Shoulder'),
      ring(mix(shoulder, elbow, 0.12), 0.062 * g, 0.06 * g, 'UpperArm'),
      ring(mix(shoulder, elbow, 0.5), 0.053 * g, 0.052 * g, 'UpperArm'),
      ring(mix(shoulder, elbow, 0.93), 0.043 * g, 0.043 * g, 'UpperArm'),
      ring(mix(elbow, wrist, 0.22), 0.047 * g, 0.046 * g, 'LowerArm'),
      ring(mix(elbow, wrist, 0.62), 0.038 * g, 0.038 * g, 'LowerArm'),
      ring(mix(elbow, wrist, 0.95), 0.031 * s, 0.033 * s, 'LowerArm'),
    ],
  };
}

function leg({ joint, s, g }: RestBody, side: 'left' | 'right'): Tube {
  const [hip, knee, ankle] = ['UpperLeg', 'LowerLeg', 'Foot'].map((part) => joint(side + part));
  const k = side === 'left' ? 1 : -1;
  const trousers = material('trousers');
  const ring = (at: Vec, half: number, front: number, back: number, part: string, mat = trousers): Ring => ({
    at,
    half,
    front,
    back,
    bone: side + part,
    material: mat,
  });
  return {
    section: ALONG_Y,
    rings: [
      ring(plus(hip, k * 0.012 * s, 0.03 * s, -0.01 * s), 0.07 * g, 0.08 * g, 0.095 * g, 'UpperLeg'),
      ring(plus(hip, k * 0.012 * s, -0.08 * s, -0.005 * s), 0.086 * g, 0.09 * g, 0.092 * g, 'UpperLeg'),
      ring(mix(hip, knee, 0.55), 0.075 * g, 0.08 * g, 0.076 * g, 'UpperLeg'),
      ring(mix(hip, knee, 0.93), 0.057 * g, 0.062 * g, 0.055 * g, 'UpperLeg'),
      ring(mix(knee, ankle, 0.08), 0.055 * g, 0.056 * g, 0.056 * g, 'LowerLeg'),
      ring(mix(knee, ankle, 0.32), 0.056 * g, 0.048 * g, 0.074 * g, 'LowerLeg'),
      ring(mix(knee, ankle, 0.72), 0.044 * g, 0.042 * g, 0.048 * g, 'LowerLeg'),
      ring(mix(knee, ankle, 0.96), 0.041 * s, 0.044 * s, 0.044 * s, 'LowerLeg', material('shoes')),
      ring(plus(ankle, 0, -0.02 * s, 0.004 * s), 0.037 * s, 0.045 * s, 0.04 * s, 'Foot', material('shoes')),
    ],
  };
}

function foot({ joint, s }: RestBody, side: 'left' | 'right'): Tube {
  const [ankle, toes] = ['Foot', 'Toes'].map((part) => joint(side + part));
  const ring = (z: number, half: number, tall: number, part: string): Ring => ({
    at: [ankle[0], (tall * s) / 2, z],
    half: half * s,
    front: (tall * s) / 2,
    back: (tall * s) / 2,
    bone: side + part,
    material: material('shoes'),
  });
  const [back, ball] = [ankle[2], toes[2]];
  return {
    section: ALONG_Z,
    rings: [
      ring(back - 0.062 * s, 0.022, 0.045, 'Foot'),
      ring(back - 0.04 * s, 0.036, 0.07, 'Foot'),
      ring(back + 0.02 * s, 0.038, 0.085, 'Foot'),
      ring(back + (ball - back) * 0.6, 0.042, 0.066, 'Foot'),
      ring(ball, 0.049, 0.05, 'Toes'),
      ring(ball + 0.045 * s, 0.044, 0.04, 'Toes'),
      ring(ball + 0.078 * s, 0.022, 0.026, 'Toes'),
    ],
  };
}

/** Height above the head joint, how far ahead the middle lies, half width and half depth, metres of a 1.75 m body. */
const SKULL = [
  [-0.05, 0.058, 0.012, 0.014],
  [-0.043, 0.052, 0.03, 0.038],
  [-0.018, 0.04, 0.049, 0.056],
  [0.015, 0.018, 0.06, 0.08],
  [0.05, 0.008, 0.068, 0.092],
  [0.09, 0.001, 0.074, 0.097],
  [0.13, -0.004, 0.071, 0.093],
  [0.162, -0.006, 0.055, 0.074],
  [0.182, -0.006, 0.027, 0.036],
  [0.187, -0.006, 0.006, 0.008],
] as const;

function head({ joint, h }: RestBody): Tube {
  return {
    section: ALONG_Y,
    rings: SKULL.map(([y, z, half, depth]) => ({
      at: plus(joint('head'), 0, y * h, z * h),
      half: half * h,
      front: depth * h,
      back: depth * h,
      bone: 'head',
      material: material('skin'),
    })),
  };
}

/** A nose of gathered vertices. */
function raiseNose({ positions }: Surface, { joint, h }: RestBody): void {
  const [x, y, z] = joint('head');
  for (let v = 0; v < positions.length; v += 3) {
    const [px, py, pz] = [0, 1, 2].map((k) => (positions[v + k] - [x, y, z][k]) / h);
    if (pz < 0.05) continue;
    const down = (0.085 - py) / 0.05;
    if (down < 0 || down > 1.25) continue;
    const tall = down <= 1 ? down : (1.25 - down) * 4;
    positions[v + 2] += h * 0.026 * tall * Math.exp(-((px / 0.011) ** 2));
  }
}

/** Hair lies above the brow and behind the ears. */
function paintHair({ positions, materials }: Surface, { joint, h }: RestBody): void {
  const [, y, z] = joint('head');
  for (let v = 0; v < materials.length; v++) {
    const [py, pz] = [(positions[v * 3 + 1] - y) / h, (positions[v * 3 + 2] - z) / h];
    if (py > 0.125 || (pz < 0.01 && py > 0.005)) materials[v] = material('hair');
  }
}

/** Skins closed tubes through rings, with as many more in between (Catmull–Rom) and a cap at each end. */
function loft(given: readonly Ring[], { wide, front }: Section, power: number, names: string[]): Surface {
  const rings = refined(given);
  const positions: number[] = [];
  const materials: number[] = [];
  const owners: number[] = [];
  const triangles = rowsJoined(rings.length, SEGMENTS);
  const add = (p: Vec, ring: Ring): number => {
    positions.push(...p);
    materials.push(ring.material);
    const known = names.indexOf(ring.bone);
    owners.push(known >= 0 ? known : names.push(ring.bone) - 1);
    return owners.length - 1;
  };
  const round = (value: number): number => Math.sign(value) * Math.abs(value) ** (2 / power);
  const corners = rings.map((ring) =>
    Array.from({ length: SEGMENTS }, (_, i) => {
      const angle = (2 * Math.PI * i) / SEGMENTS;
      const [a, b] = [round(Math.cos(angle)) * ring.half, round(Math.sin(angle))];
      const c = b * (b > 0 ? ring.front : ring.back);
      return add([0, 1, 2].map((k) => ring.at[k] + wide[k] * a + front[k] * c) as unknown as Vec, ring);
    }),
  );
  for (const [ring, corner, flip] of [
    [rings[0], corners[0], true],
    [rings[rings.length - 1], corners[corners.length - 1], false],
  ] as const) {
    const middle = add(ring.at, ring);
    for (let i = 0; i < SEGMENTS; i++) {
      const [a, b] = [corner[i], corner[(i + 1) % SEGMENTS]];
      triangles.push(middle, ...(flip ? [b, a] : [a, b]));
    }
  }
  return closedSurface(Float32Array.from(positions), triangles, materials, owners, 0.9);
}

function refined(rings: readonly Ring[]): Ring[] {
  const out: Ring[] = [];
  for (let r = 0; r + 1 < rings.length; r++) {
    const four = [rings[Math.max(0, r - 1)], rings[r], rings[r + 1], rings[Math.min(rings.length - 1, r + 2)]];
    for (let k = 0; k <= BETWEEN; k++) {
      const t = k / (BETWEEN + 1);
      const curve = (pick: (ring: Ring) => number): number => catmullRom(four.map(pick), t);
      const near = t < 0.5 ? rings[r] : rings[r + 1];
      out.push({
        at: [0, 1, 2].map((axis) => curve(({ at }) => at[axis])) as unknown as Vec,
        half: Math.max(
          1e-3,
          curve(({ half }) => half),
        ),
        front: Math.max(
          1e-3,
          curve(({ front }) => front),
        ),
        back: Math.max(
          1e-3,
          curve(({ back }) => back),
        ),
        bone: near.bone,
        material: near.material,
      });
    }
  }
  return [...out, rings[rings.length - 1]];
}

/** Through the second and third of four values (E. Catmull and R. Rom, 1974). */
function catmullRom([a, b, c, d]: readonly number[], t: number): number {
  return 0.5 * (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t * t + (3 * b - a - 3 * c + d) * t * t * t);
}
