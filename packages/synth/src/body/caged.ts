import { jointIndex, type Skeleton } from '@merry-shadow/core/motion/skeleton';
import { SIDES } from '@merry-shadow/core/motion/humanoid';
import { material } from './materials';
import type { Binding, BodyBuilder, FigurePart } from './part';
import { mix, plus, restBody, type RestBody } from './rest-joints';
import type { Vec } from './shapes';
import { oriented, subdivided, type Cage } from './subdivide';
import { closedSurface } from './surface';

/** Rounds of subdivision. */
const ROUNDS = 3;
/** A subdivided square lies inside its cage by so much. */
const SHRINKS = 0.93;

/** Collects a cage ring by ring; each vertex has a place and a weight for every bone. */
class CageMaker {
  private readonly vertices: number[][] = [];
  private readonly faces: Cage['faces'] = [];

  constructor(private readonly bones: readonly string[]) {}

  /** A ring of vertices that move with one bone or, evenly, with several. */
  ring(points: readonly Vec[], ...bones: string[]): number[] {
    return points.map((point) => {
      const weights = this.bones.map((bone) => (bones.includes(bone) ? 1 / bones.length : 0));
      return this.vertices.push([...point, ...weights]) - 1;
    });
  }

  face(corners: number[], mat: number, bone: string): void {
    this.faces.push({ corners, material: mat, owner: this.bones.indexOf(bone) });
  }

  /** Quads between two rings of as many corners; `leave` tells edges that stay open. */
  bridge(
    from: readonly number[],
    to: readonly number[],
    mat: number,
    bone: string,
    leave: readonly number[] = [],
  ): void {
    from.forEach((corner, i) => {
      const n = (i + 1) % from.length;
      if (!leave.includes(i)) this.face([corner, from[n], to[n], to[i]], mat, bone);
    });
  }

  /** A tube of rings from an open ring, closed at its end. */
  tube(start: readonly number[], rings: readonly { points: Vec[]; bones: string[]; material: number }[]): void {
    let last = start;
    for (const { points, bones, material: mat } of rings) {
      const next = this.ring(points, ...bones);
      this.bridge(last, next, mat, bones[0]);
      last = next;
    }
    const end = rings[rings.length - 1];
    this.face([...last], end.material, end.bones[0]);
  }

  finish(skeleton: Skeleton): FigurePart {
    let cage = oriented({ vertices: this.vertices, faces: this.faces });
    for (let round = 0; round < ROUNDS; round++) cage = subdivided(cage);
    const positions = Float32Array.from(cage.vertices.flatMap((vertex) => vertex.slice(0, 3)));
    const triangles = cage.faces.flatMap(({ corners: [a, b, c, d] }) => [a, b, c, a, c, d]);
    const count = cage.vertices.length;
    const [materials, owners] = [new Uint8Array(count), new Uint16Array(count)];
    for (const face of cage.faces)
      for (const corner of face.corners) {
        materials[corner] = face.material;
        owners[corner] = face.owner;
      }
    const joints = this.bones.map((bone) => jointIndex(skeleton, bone));
    const bindings = cage.vertices.map((vertex): Binding => {
      const best = joints
        .map((joint, i) => [joint, vertex[3 + i]] as const)
        .sort((a, b) => b[1] - a[1])
        .slice(0, 4)
        .filter(([, weight]) => weight > 0.01);
      const total = best.reduce((sum, [, weight]) => sum + weight, 0);
      return best.map(([joint, weight]) => [joint, weight / total]);
    });
    return {
      surface: closedSurface(positions, triangles, materials, owners, 1),
      bone: (owner) => this.bones[owner],
      binding: (vertex) => bindings[vertex],
    };
  }
}

const TRUNK = ['hips', 'spine', 'chest', 'upperChest', 'neck', 'head'];
const BONES = [
  ...TRUNK,
  ...SIDES.flatMap((side) =>
    ['Shoulder', 'UpperArm', 'LowerArm', 'UpperLeg', 'LowerLeg', 'Foot', 'Toes'].map((part) => side + part),
  ),
];

/** Six corners about a middle: left, centre and right in front, then right, centre and left behind. */
function six(at: Vec, half: number, front: number, back: number): Vec[] {
  const [w, f, b] = [half, front, back].map((value) => value / SHRINKS);
  const side = 0.72;
  return [
    plus(at, w, 0, f * side),
    plus(at, 0, 0, f),
    plus(at, -w, 0, f * side),
    plus(at, -w, 0, -b * side),
    plus(at, 0, 0, -b),
    plus(at, w, 0, -b * side),
  ];
}

/**
 * Bodies cut from one cage: trunk of six corners, legs and arms drawn out of its faces, subdivided thrice. Weights are
 * given to the cage and subdivided with it, so that joints bend over long stretches.
 */
export const caged: BodyBuilder = (performer, skeleton) => {
  const rest = restBody(performer, skeleton);
  return { body: body(rest).finish(skeleton), head: () => ({ ...head(rest).finish(skeleton), face: true }) };
};

function body({ joint, s, g }: RestBody): CageMaker {
  const maker = new CageMaker(BONES);
  const [hips, spine, chest, upper, neck] = ['hips', 'spine', 'chest', 'upperChest', 'neck'].map(joint);
  const shoulder = joint('leftUpperArm')[0];
  const hip = joint('leftUpperLeg')[0];
  const [shirt, trousers] = [material('shirt'), material('trousers')];
  const crotch = maker.ring(six(plus(hips, 0, -0.085 * s, -0.005 * s), hip + 0.066 * g, 0.092 * g, 0.11 * g), 'hips');
  const seat = maker.ring(six(plus(hips, 0, -0.005 * s, -0.006 * s), hip + 0.07 * g, 0.102 * g, 0.122 * g), 'hips');
  const belt = maker.ring(six(plus(hips, 0, 0.085 * s, 0), 0.15 * g, 0.1 * g, 0.1 * g), 'hips');
  const waist = maker.ring(six(plus(spine, 0, 0.05 * s, 0), 0.136 * g, 0.094 * g, 0.086 * g), 'spine');
  const breast = maker.ring(six(plus(chest, 0, 0.06 * s, 0), 0.152 * g, 0.116 * g, 0.098 * g), 'chest');
  const armpit = maker.ring(six(plus(upper, 0, 0, 0), shoulder * 0.88, 0.116 * g, 0.108 * g), 'upperChest');
  const top = maker.ring(six(plus(upper, 0, 0.13 * s, -0.012 * s), shoulder * 0.84, 0.062 * g, 0.07 * g), 'upperChest');
  const collar = maker.ring(six(plus(neck, 0, 0.0, -0.006 * s), 0.068 * s, 0.058 * s, 0.06 * s), 'upperChest', 'neck');
  const throat = maker.ring(six(plus(neck, 0, 0.075 * s, 0.004 * s), 0.056 * s, 0.052 * s, 0.054 * s), 'neck');
  maker.bridge(crotch, seat, trousers, 'hips');
  maker.bridge(seat, belt, trousers, 'hips');
  maker.bridge(belt, waist, shirt, 'spine');
  maker.bridge(waist, breast, shirt, 'chest');
  maker.bridge(breast, armpit, shirt, 'upperChest');
  // The faces at both sides are left open for the arms.
  maker.bridge(armpit, top, shirt, 'upperChest', [2, 5]);
  maker.bridge(top, collar, shirt, 'upperChest');
  maker.bridge(collar, throat, material('skin'), 'neck');
  maker.face(throat.slice(0, 2).concat(throat[4], throat[5]), material('skin'), 'neck');
  maker.face(throat.slice(1, 5), material('skin'), 'neck');
  const open = {
    left: { leg: [crotch[0], crotch[1], crotch[4], crotch[5]], arm: [armpit[0], armpit[5], top[5], top[0]] },
    right: { leg: [crotch[2], crotch[1], crotch[4], crotch[3]], arm: [armpit[2], armpit[3], top[3], top[2]] },
  };
  for (const side of SIDES) {
    maker.tube(open[side].leg, leg({ joint, s, g }, side));
    maker.tube(open[side].arm, arm({ joint, s, g }, side));
  }
  return maker;
}

type TubeRing = { points: Vec[]; bones: string[]; material: number };

function leg({ joint, s, g }: Pick<RestBody, 'joint' | 's' | 'g'>, side: 'left' | 'right'): TubeRing[] {
  const [hip, knee, ankle, toes] = ['UpperLeg', 'LowerLeg', 'Foot', 'Toes'].map((part) => joint(side + part));
  const k = side === 'left' ? 1 : -1;
  /** Outer front, inner front, inner back, outer back. */
  const ring = (at: Vec, half: number, front: number, back: number, bones: string[], mat = 'trousers'): TubeRing => {
    const [w, f, b] = [half * g, front * g, back * g].map((value) => value / SHRINKS);
    return {
      points: [plus(at, k * w, 0, f), plus(at, -k * w, 0, f), plus(at, -k * w, 0, -b), plus(at, k * w, 0, -b)],
      bones: bones.map((part) => side + part),
      material: material(mat as 'trousers'),
    };
  };
  const [upper, lower, foot, toe] = [['UpperLeg'], ['LowerLeg'], ['Foot'], ['Toes']];
  const shoe = (z: number, half: number, low: number, high: number, bones: string[]): TubeRing => ({
    points: [
      [ankle[0] + k * half * s, high * s, z],
      [ankle[0] - k * half * s, high * s, z],
      [ankle[0] - k * half * s, low * s, z],
      [ankle[0] + k * half * s, low * s, z],
    ],
    bones: bones.map((part) => side + part),
    material: material('shoes'),
  });
  return [
    ring(plus(hip, k * 0.012 * s, -0.11 * s, 0), 0.078, 0.082, 0.08, upper),
    ring(mix(hip, knee, 0.6), 0.066, 0.07, 0.064, upper),
    ring(mix(hip, knee, 0.93), 0.053, 0.056, 0.05, upper),
    ring(mix(knee, ankle, 0.03), 0.051, 0.054, 0.05, ['UpperLeg', 'LowerLeg']),
    ring(mix(knee, ankle, 0.14), 0.05, 0.05, 0.054, lower),
    ring(mix(knee, ankle, 0.36), 0.051, 0.044, 0.064, lower),
    ring(mix(knee, ankle, 0.75), 0.04, 0.038, 0.042, lower),
    ring(mix(knee, ankle, 0.95), 0.038 / (g / s), 0.042 / (g / s), 0.04 / (g / s), lower, 'shoes'),
    // Heel and instep: the ring tips over from the shin's section to the foot's.
    {
      points: [
        [ankle[0] + k * 0.038 * s, 0.055 * s, ankle[2] + 0.055 * s],
        [ankle[0] - k * 0.038 * s, 0.055 * s, ankle[2] + 0.055 * s],
        [ankle[0] - k * 0.036 * s, -0.004 * s, ankle[2] - 0.06 * s],
        [ankle[0] + k * 0.036 * s, -0.004 * s, ankle[2] - 0.06 * s],
      ],
      bones: [`${side}Foot`],
      material: material('shoes'),
    },
    shoe(ankle[2] + (toes[2] - ankle[2]) * 0.62, 0.043, -0.004, 0.068, foot),
    shoe(toes[2], 0.05, -0.003, 0.05, ['Foot', 'Toes']),
    shoe(toes[2] + 0.05 * s, 0.045, -0.002, 0.042, toe),
    shoe(toes[2] + 0.085 * s, 0.03, 0.002, 0.03, toe),
  ];
}

function arm({ joint, s, g }: Pick<RestBody, 'joint' | 's' | 'g'>, side: 'left' | 'right'): TubeRing[] {
  const [shoulder, elbow, wrist] = ['UpperArm', 'LowerArm', 'Hand'].map((part) => joint(side + part));
  /** Low front, low back, high back, high front. */
  const ring = (at: Vec, tall: number, deep: number, ...parts: string[]): TubeRing => {
    const [h, d] = [tall / SHRINKS, deep / SHRINKS];
    return {
      points: [plus(at, 0, -h, d), plus(at, 0, -h, -d), plus(at, 0, h, -d), plus(at, 0, h, d)],
      bones: parts.map((part) => side + part),
      material: material('shirt'),
    };
  };
  return [
    ring(mix(shoulder, elbow, 0.02), 0.06 * g, 0.056 * g, 'Shoulder', 'UpperArm'),
    ring(mix(shoulder, elbow, 0.28), 0.052 * g, 0.051 * g, 'UpperArm'),
    ring(mix(shoulder, elbow, 0.62), 0.046 * g, 0.047 * g, 'UpperArm'),
    ring(mix(shoulder, elbow, 0.92), 0.04 * g, 0.042 * g, 'UpperArm'),
    ring(mix(elbow, wrist, 0.03), 0.04 * g, 0.042 * g, 'UpperArm', 'LowerArm'),
    ring(mix(elbow, wrist, 0.16), 0.042 * g, 0.043 * g, 'LowerArm'),
    ring(mix(elbow, wrist, 0.5), 0.036 * g, 0.036 * g, 'LowerArm'),
    ring(mix(elbow, wrist, 0.96), 0.027 * s, 0.031 * s, 'LowerArm'),
  ];
}

/** Height above the head joint, how far ahead the middle lies, half width, reach ahead and behind, metres of a 1.75 m body. */
const SKULL = [
  [-0.044, 0.052, 0.024, 0.03, 0.03],
  [-0.022, 0.03, 0.046, 0.066, 0.045],
  [0.022, 0.01, 0.062, 0.094, 0.082],
  [0.066, 0.002, 0.07, 0.092, 0.098],
  [0.108, -0.002, 0.076, 0.098, 0.1],
  [0.152, -0.004, 0.068, 0.084, 0.09],
  [0.184, -0.006, 0.036, 0.044, 0.05],
] as const;

function head({ joint, h }: RestBody): CageMaker {
  const maker = new CageMaker(['head']);
  const at = joint('head');
  const rings = SKULL.map(([y, z, half, front, back]) =>
    maker.ring(six(plus(at, 0, y * h, z * h), half * h, front * h, back * h), 'head'),
  );
  const [skin, hair] = [material('skin'), material('hair')];
  for (let r = 0; r + 1 < rings.length; r++)
    rings[r].forEach((corner, i) => {
      const n = (i + 1) % 6;
      const behind = i >= 2;
      const mat = r >= 4 || (behind && r >= 2) ? hair : skin;
      maker.face([corner, rings[r][n], rings[r + 1][n], rings[r + 1][i]], mat, 'head');
    });
  for (const [ring, mat] of [
    [rings[0], skin],
    [rings[rings.length - 1], hair],
  ] as const) {
    maker.face([ring[0], ring[1], ring[4], ring[5]], mat, 'head');
    maker.face(ring.slice(1, 5), mat, 'head');
  }
  return maker;
}
