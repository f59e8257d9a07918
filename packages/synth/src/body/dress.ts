import { jointIndex, type Skeleton } from '@merry-shadow/core/motion/skeleton';
import { SIDES } from '@merry-shadow/core/motion/humanoid';
import type { Performer } from '../choreography/script';
import { material } from './materials';
import type { Binding, FigurePart } from './part';
import { plus, restBody, type RestBody } from './rest-joints';
import type { Vec } from './shapes';
import { closedSurface, rowsJoined, type Surface } from './surface';

/** How far the loosest clothes hang off, and how deep their folds are, metres of a 1.75 m body. */
const HANGS = 0.024;
const FOLDS = 0.006;

/**
 * Dresses body or head of any recipe in place: short sleeves and trousers and bald heads show skin, loose clothes hang off the body and fold.
 */
export function dress({ surface, bone }: FigurePart, performer: Performer, skeleton: Skeleton): void {
  const { look } = performer;
  const rest = restBody(performer, skeleton);
  const { positions, normals, materials, owners } = surface;
  const [shirt, trousers, skin] = [material('shirt'), material('trousers'), material('skin')];
  const bare = [
    ...(look.barefoot ? [material('shoes'), material('sole')] : []),
    ...(look.hairStyle === 'bald' ? [material('hair')] : []),
  ];
  for (let v = 0; v < materials.length; v++) {
    const p = positions.subarray(v * 3, v * 3 + 3);
    const name = bone(owners[v]);
    const along = alongLimb(rest, name, p);
    if (/Arm/.test(name) && along > look.sleeves && look.sleeves < 1) materials[v] = skin;
    if (/Leg/.test(name) && along > look.trouserLegs && materials[v] === trousers) materials[v] = skin;
    if (bare.includes(materials[v])) materials[v] = skin;
    if (look.loose > 0 && (materials[v] === shirt || materials[v] === trousers)) {
      const fold = Math.sin(p[1] * 55 + p[0] * 30) * Math.sin(p[2] * 40 + p[0] * 22 + p[1] * 9);
      const off = look.loose * rest.s * (HANGS * (0.35 + 0.65 * Math.min(1, along)) + FOLDS * fold);
      for (let k = 0; k < 3; k++) p[k] += normals[v * 3 + k] * off;
    }
  }
}

/** How far down its limb a place lies, 0 … 1; halfway for the trunk. */
function alongLimb({ joint }: RestBody, name: string, p: Float32Array): number {
  const side = name.startsWith('left') ? 'left' : 'right';
  const span = (from: number, to: number, at: number): number => Math.max(0, (at - from) / (to - from));
  if (/Arm/.test(name)) return span(joint(`${side}UpperArm`)[0], joint(`${side}Hand`)[0], p[0]);
  if (/Leg/.test(name)) return span(joint(`${side}UpperLeg`)[1], joint(`${side}Foot`)[1], p[1]);
  return 0.5;
}

const AROUND = 36;
const DOWN = 14;

/**
 * Skirt and coat: sheets that hang from the belt and from the shoulders, each vertex between the hips and the leg that it hangs before;
 * and hair that hangs or is tied up.
 */
export function worn(performer: Performer, skeleton: Skeleton): FigurePart[] {
  const rest = restBody(performer, skeleton);
  const { skirt, coat, hairStyle } = performer.look;
  const parts: FigurePart[] = [];
  if (skirt > 0) parts.push(sheet(rest, skeleton, { reach: skirt, wide: 0.13, open: false, name: 'trousers' }));
  if (coat > 0) parts.push(sheet(rest, skeleton, { reach: coat, wide: 0.05, open: true, name: 'shirt' }));
  if (hairStyle === 'long' || hairStyle === 'bun') parts.push(hair(rest, hairStyle));
  return parts;
}

interface SheetCut {
  /** How far it reaches, 0 the belt … 1 the ankle. */
  reach: number;
  /** How much wider its hem is, metres of a 1.75 m body. */
  wide: number;
  /** Open in front. */
  open: boolean;
  name: 'trousers' | 'shirt';
}

function sheet({ joint, s, g }: RestBody, skeleton: Skeleton, { reach, wide, open, name }: SheetCut): FigurePart {
  const hips = joint('hips');
  const hip = joint('leftUpperLeg');
  const ankle = joint('leftFoot')[1];
  const top = hips[1] + 0.085 * s;
  const positions: number[] = [];
  const bindings: Binding[] = [];
  const middle = jointIndex(skeleton, 'hips');
  const legs = SIDES.map((side) => jointIndex(skeleton, `${side}UpperLeg`));
  const shins = SIDES.map((side) => jointIndex(skeleton, `${side}LowerLeg`));
  const knee = joint('leftLowerLeg')[1];
  for (let row = 0; row <= DOWN; row++) {
    const t = row / DOWN;
    const y = top + (ankle - top) * reach * t;
    // Over the seat it is as wide as the body, below it widens to the hem.
    const seat = Math.min(1, ((top - y) / (top - hip[1])) * 1.1);
    const half = (0.15 * g + (hip[0] + 0.09 * g - 0.15 * g) * seat) * 1.06 + wide * s * t;
    const deep = (0.112 * g + 0.03 * g * seat) * 1.05 + wide * s * t;
    for (let i = 0; i < AROUND; i++) {
      const angle = open ? 0.18 + ((2 * Math.PI - 0.36) * i) / (AROUND - 1) : (2 * Math.PI * i) / AROUND;
      const fold = 1 + 0.05 * t * Math.sin(angle * 9);
      const [x, z] = [Math.sin(angle) * half * fold, Math.cos(angle) * deep * fold];
      positions.push(hips[0] + x, y, hips[2] + z - 0.006 * s);
      const left = 1 / (1 + Math.exp(-x / (0.05 * s)));
      const leg = Math.min(0.85, 1.1 * Math.max(0, (top - y) / (top - hip[1]) - 0.6));
      const shin = leg * Math.min(0.8, Math.max(0, ((knee + 0.06 * s - y) / (0.3 * s)) * 0.8));
      bindings.push(
        [
          [legs[0], left * (leg - shin)],
          [legs[1], (1 - left) * (leg - shin)],
          [middle, 1 - leg],
          shin > 0 ? [shins[x > 0 ? 0 : 1], shin] : [0, 0],
        ].filter(([, weight]) => weight > 0) as unknown as Binding,
      );
    }
  }
  return {
    surface: madeOf(positions, !open, material(name)),
    bone: () => 'hips',
    binding: (vertex) => bindings[vertex],
  };
}

/** Hair that falls over the neck, or a bun behind the crown: a bent ball. */
function hair({ joint, h }: RestBody, style: 'long' | 'bun'): FigurePart {
  const at = joint('head');
  const [middle, size]: [Vec, Vec] =
    style === 'bun'
      ? [plus(at, 0, 0.12 * h, -0.115 * h), [0.045 * h, 0.045 * h, 0.04 * h]]
      : [plus(at, 0, 0.005 * h, -0.058 * h), [0.088 * h, 0.13 * h, 0.05 * h]];
  const positions: number[] = [];
  for (let row = 0; row <= DOWN; row++)
    for (let i = 0; i < AROUND; i++) {
      const [polar, angle] = [(Math.PI * row) / DOWN, (2 * Math.PI * i) / AROUND];
      const ring = Math.sin(polar) * (1 + 0.03 * Math.sin(angle * 12));
      positions.push(
        middle[0] + size[0] * ring * Math.cos(angle),
        middle[1] + size[1] * Math.cos(polar),
        middle[2] + size[2] * ring * Math.sin(angle),
      );
    }
  return { surface: madeOf(positions, true, material('hair')), bone: () => 'head', rigid: true };
}

/** A sheet of rows of vertices; each row goes all the way round where it is closed. */
function madeOf(positions: readonly number[], closed: boolean, mat: number): Surface {
  const count = positions.length / 3;
  const triangles = rowsJoined(DOWN + 1, AROUND, closed);
  return closedSurface(
    Float32Array.from(positions),
    triangles,
    new Array<number>(count).fill(mat),
    new Uint16Array(count),
    0.9,
  );
}
