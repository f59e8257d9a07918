import { FINGERS, fingerBones, type Finger, type Side } from '@merry-shadow/core/motion/humanoid';
import { jointIndex, type Skeleton } from '@merry-shadow/core/motion/skeleton';
import type { Performer } from '../choreography/script';
import { handTint, fingerTint } from './hand-tint';
import { material } from './materials';
import type { Binding, FigurePart } from './part';
import { plus, restBody } from './rest-joints';
import { closedSurface, mergeSurfaces, meshShapes, rowsJoined, type Surface } from './surface';
import type { Shape, Vec } from './shapes';

/** Half widths of fingers against the index finger's. */
const THICK: Record<Finger, number> = { Thumb: 1.24, Index: 1, Middle: 1.03, Ring: 0.97, Little: 0.85 };
/** Half width of an index finger of a body of 1.75 m, metres. */
const HALF = 0.0091;

/** A finger's section: place along its bones (0 the knuckle, 3 the tip), half width, height to the back and to the palm, in half widths. */
type Section = readonly [along: number, half: number, back: number, palm: number];
const SECTIONS: readonly Section[] = [
  [-0.3, 0.8, 0.6, 0.7],
  [0, 1, 1.12, 1],
  [0.3, 1.03, 0.98, 1.12],
  [0.62, 0.99, 0.92, 1.1],
  [0.86, 1.02, 0.97, 0.95],
  [1, 1.06, 1.04, 0.84],
  [1.15, 1.02, 0.95, 0.96],
  [1.5, 0.96, 0.86, 1.03],
  [1.84, 0.94, 0.84, 0.85],
  [2, 0.95, 0.86, 0.76],
  [2.2, 0.92, 0.78, 0.9],
  [2.55, 0.88, 0.7, 0.92],
  [2.8, 0.8, 0.62, 0.84],
  [3, 0.7, 0.5, 0.72],
];
/** From where the tip rounds off. */
const TIP = 2.62;
const COLUMNS = 26;
const ROWS_A_BONE = 20;

/** A hand with flesh between its fingers, pads, creases, knuckles and nails; each finger is a tube of its own that bends at its joints alone. */
export function fleshedHand(side: Side, performer: Performer, skeleton: Skeleton): FigurePart {
  const { joint, s: bodyScale } = restBody(performer, skeleton);
  const s = bodyScale * performer.body.hands;
  const k = side === 'left' ? 1 : -1;
  const { skin } = performer.look;
  const number = (bone: string): number => jointIndex(skeleton, bone);
  const fingers = FINGERS.map((finger) => chainOf(finger, side, joint, skeleton, s * performer.body.fingerGirth));
  const shapes = palmShapes(side, joint, fingers, s);
  const palm = meshShapes(shapes, 0.0024 * Math.max(0.7, s));
  palm.tint = handTint(palm, joint(`${side}Hand`), s, k, skin);
  const tubes = fingers.map((finger) => fingerTube(finger, skin));
  const bindings: Binding[] = [];
  for (let v = 0; v < palm.materials.length; v++)
    bindings.push(palmBinding(palm.positions.subarray(v * 3, v * 3 + 3), fingers, number, `${side}Hand`, s, k));
  fingers.forEach((finger, f) => bindings.push(...tubes[f].along.map((t) => tubeBinding(t, finger, number, side))));
  return {
    surface: mergeSurfaces([palm, ...tubes.map(({ surface }) => surface)]),
    bone: () => `${side}Hand`,
    binding: (v) => bindings[v],
  };
}

interface Chain {
  finger: Finger;
  bones: readonly [string, string, string];
  /** Its three joints and its tip. */
  points: readonly Vec[];
  /** Towards the tip, to the back of the finger, and across. */
  ahead: Vec;
  back: Vec;
  across: Vec;
  half: number;
}

const minus = (a: Vec, b: Vec): Vec => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const scaled = (v: Vec, by: number): Vec => [v[0] * by, v[1] * by, v[2] * by];
const unit = (v: Vec): Vec => scaled(v, 1 / Math.hypot(...v));
const cross = (a: Vec, b: Vec): Vec => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

function chainOf(finger: Finger, side: Side, joint: (name: string) => Vec, skeleton: Skeleton, s: number): Chain {
  const bones = fingerBones(finger).map((bone) => side + finger + bone) as unknown as Chain['bones'];
  const points = bones.map(joint);
  const tip = skeleton.joints[jointIndex(skeleton, bones[2])].tip ?? [0, 0, 0];
  points.push(plus(points[2], ...(tip as [number, number, number])));
  const ahead = unit(minus(points[2], points[0]));
  // Fingers bend down; the thumb bends sideways, towards the fingers.
  const towardsPalm: Vec = finger === 'Thumb' ? scaled(cross([0, 1, 0], ahead), side === 'left' ? 1 : -1) : [0, -1, 0];
  const across = unit(cross(ahead, towardsPalm));
  return { finger, bones, points, ahead, across, back: unit(cross(ahead, across)), half: HALF * THICK[finger] * s };
}

/** A section between those of the table. */
function sectionAt(along: number): Section {
  const next = Math.max(
    1,
    SECTIONS.findIndex(([at]) => at >= along),
  );
  const [a, b] = [SECTIONS[next - 1], SECTIONS[next]];
  const t = (along - a[0]) / (b[0] - a[0]);
  const eased = t * t * (3 - 2 * t);
  return [along, ...[1, 2, 3].map((i) => a[i] + (b[i] - a[i]) * eased)] as unknown as Section;
}

/** The point of a chain at a place along it. */
function pointAt({ points }: Chain, along: number): Vec {
  const i = Math.min(2, Math.max(0, Math.floor(along)));
  const t = along - i;
  return [0, 1, 2].map((c) => points[i][c] + (points[i + 1][c] - points[i][c]) * t) as unknown as Vec;
}

/** A finger as a tube through its sections, denser at its joints. */
function fingerTube(chain: Chain, skin: string): { surface: Surface; along: number[] } {
  const rows = [-0.3, -0.15];
  for (let i = 0; i < 3 * ROWS_A_BONE; i++) {
    const t = (i % ROWS_A_BONE) / ROWS_A_BONE;
    rows.push(Math.floor(i / ROWS_A_BONE) + (1 - Math.cos(Math.PI * t)) / 2);
  }
  rows.push(2.9975);
  const positions: number[] = [];
  const along: number[] = [];
  const tint: number[] = [];
  const openness: number[] = [];
  for (const at of rows) {
    const [, half, back, palm] = sectionAt(at);
    const rounded = at > TIP ? Math.sqrt(1 - ((at - TIP) / (3 - TIP)) ** 2) : 1;
    const middle = pointAt(chain, at);
    for (let c = 0; c < COLUMNS; c++) {
      const angle = (c / COLUMNS) * 2 * Math.PI;
      const up = Math.cos(angle);
      const high = (up > 0 ? back : palm) * up * chain.half * rounded;
      const wide = half * Math.sin(angle) * chain.half * rounded;
      for (let i = 0; i < 3; i++) positions.push(middle[i] + chain.back[i] * high + chain.across[i] * wide);
      along.push(at);
      tint.push(...fingerTint(at, angle, chain.finger === 'Thumb', skin));
      openness.push(1 - 0.45 * Math.sin(angle) ** 4 * Math.min(1, Math.max(0, (2.9 - at) / 0.8)));
    }
  }
  const caps = [0, (rows.length - 1) * COLUMNS].flatMap((first, end) => {
    const fan: number[] = [];
    for (let c = 1; c + 1 < COLUMNS; c++) fan.push(first, first + (end ? c : c + 1), first + (end ? c + 1 : c));
    return fan;
  });
  const triangles = [...rowsJoined(rows.length, COLUMNS), ...caps.map((v) => v)];
  const surface = closedSurface(
    Float32Array.from(positions),
    triangles,
    along.map(() => material('skin')),
    along.map(() => 0),
    1,
  );
  return { surface: { ...surface, tint: Float32Array.from(tint), openness: Float32Array.from(openness) }, along };
}

/** What lies between wrist and fingers: the bones of the palm, the balls of thumb and little finger, and the flesh between the fingers' roots. */
function palmShapes(side: Side, joint: (name: string) => Vec, fingers: readonly Chain[], s: number): Shape[] {
  const skin = material('skin');
  const wrist = joint(`${side}Hand`);
  const k = side === 'left' ? 1 : -1;
  const bone = `${side}Hand`;
  const at = (x: number, y: number, z: number): Vec => plus(wrist, k * x * s, y * s, z * s);
  const cone = (a: Vec, b: Vec, radii: [number, number], flat: number, blend: number): Shape => ({
    kind: 'cone',
    a,
    b,
    radii: [radii[0] * s, radii[1] * s],
    flat,
    material: skin,
    bone,
    blend: blend * s,
  });
  const ball = (a: Vec, b: Vec, blend: number): Shape => ({
    kind: 'ellipsoid',
    a,
    b: [b[0] * s, b[1] * s, b[2] * s],
    material: skin,
    bone,
    blend: blend * s,
  });
  const [thumb, ...others] = fingers;
  const shapes = [
    cone(at(-0.055, 0, 0), at(0.012, 0, 0), [0.0165, 0.0188], 1.45, 0.012),
    ball(at(0.048, -0.0045, -0.002), [0.05, 0.0135, 0.036], 0.014),
    // The ball of the little finger.
    ball(at(0.034, -0.01, -0.024), [0.034, 0.0125, 0.0135], 0.014),
    // The ball of the thumb, along its first bone.
    cone(pointAt(thumb, 0.05), pointAt(thumb, 0.8), [0.0165, 0.0125], 1, 0.016),
    ball(at(0.034, -0.0095, 0.017), [0.03, 0.0135, 0.016], 0.014),
  ];
  for (const chain of others) {
    const root = chain.points[0];
    shapes.push(
      cone(
        at(0.012, 0.002, ((root[2] - wrist[2]) / s) * 0.45),
        plus(root, 0, 0.0005 * s, 0),
        [0.0095, 0.0098],
        1.05,
        0.008,
      ),
      cone(root, pointAt(chain, 0.34), [0.0098, 0.0086], 1.05, 0.006),
    );
  }
  // Webs between neighbours.
  others.slice(1).forEach((chain, i) => {
    const [a, b] = [pointAt(others[i], 0.26), pointAt(chain, 0.28)];
    shapes.push(cone(a, b, [0.0068, 0.0068], 1, 0.006));
  });
  // The fold between thumb and index finger.
  shapes.push(
    cone(pointAt(thumb, 0.75), plus(others[0].points[0], -k * 0.02 * s, -0.004 * s, 0), [0.0065, 0.0075], 1, 0.02),
  );
  return shapes;
}

const smooth = (t: number): number => {
  const c = Math.min(1, Math.max(0, t));
  return c * c * (3 - 2 * c);
};

/** How a place of the palm moves with the roots of the fingers and the thumb's first bone. */
function palmBinding(
  place: Float32Array,
  [thumb, ...others]: readonly Chain[],
  number: (bone: string) => number,
  hand: string,
  s: number,
  k: number,
): Binding {
  const shares: [number, number][] = [];
  let rest = 1;
  const take = (bone: string, share: number): void => {
    const part = rest * share;
    if (part < 0.01) return;
    shares.push([number(bone), part]);
    rest -= part;
  };
  const p: Vec = [place[0], place[1], place[2]];
  // With the thumb by how near its first two bones are.
  const [along, aside] = besideBone(p, thumb.points[0], thumb.points[1]);
  const length = Math.hypot(...minus(thumb.points[1], thumb.points[0]));
  const beyond = (others[0].points[0][0] - p[0]) * k;
  if (beyond > -0.005 * s) {
    const near = smooth((0.03 * s - aside) / (0.022 * s)) * smooth((along / length + 0.15) / 0.5);
    take(thumb.bones[1], near * smooth((along / length - 0.85) / 0.3));
    take(thumb.bones[0], near);
  }
  // With the fingers beyond the knuckles.
  const near = others
    .map((chain) => {
      const [ahead] = besideBone(p, chain.points[0], chain.points[1]);
      const line = pointAt(chain, Math.max(0, ahead) / Math.hypot(...minus(chain.points[1], chain.points[0])));
      return { chain, ahead, weight: Math.exp(-(((p[2] - line[2]) / (0.0055 * s)) ** 2)) + 1e-9 };
    })
    .sort((a, b) => b.weight - a.weight)
    .slice(0, 2);
  const total = near.reduce((sum, { weight }) => sum + weight, 0);
  const before = rest;
  for (const { chain, ahead, weight } of near) {
    const part = (before * weight * smooth((ahead + 0.01 * s) / (0.02 * s))) / total;
    if (part < 0.01 || shares.length > 2) continue;
    shares.push([number(chain.bones[0]), part]);
    rest -= part;
  }
  shares.push([number(hand), rest]);
  return shares.sort((a, b) => b[1] - a[1]);
}

/** How far along a bone and how far beside it a place is. */
function besideBone(p: Vec, from: Vec, to: Vec): [number, number] {
  const way = unit(minus(to, from));
  const off = minus(p, from);
  const along = off[0] * way[0] + off[1] * way[1] + off[2] * way[2];
  const length = Math.hypot(...minus(to, from));
  const t = Math.min(length, Math.max(0, along));
  return [along, Math.hypot(...minus(off, scaled(way, t)))];
}

/** A finger's tube bends within a short way about each joint. */
function tubeBinding(along: number, { bones, points }: Chain, number: (bone: string) => number, side: Side): Binding {
  const chain = [`${side}Hand`, ...bones].map(number);
  const j = Math.min(2, Math.max(0, Math.round(along)));
  const bone = Math.hypot(...minus(points[Math.min(3, j + 1)], points[j]));
  const share = smooth(((along - j) * bone) / (j === 0 ? 0.018 : 0.011) + 0.5);
  return share <= 0
    ? [[chain[j], 1]]
    : share >= 1
      ? [[chain[j + 1], 1]]
      : [
          [chain[j + 1], share],
          [chain[j], 1 - share],
        ];
}
