import { vec3 } from 'gl-matrix';
import { FINGERS, type Side } from '@merry-shadow/core/motion/humanoid';
import { jointIndex, type Skeleton } from '@merry-shadow/core/motion/skeleton';
import { smoothStep } from '@merry-shadow/core/motion/turns-from-axes';
import type { Performer } from '../choreography/script';
import { bell } from '../soft-forms';
import { chainOf, fingerTube, pointAt, tubeBinding, type Chain } from './finger-tube';
import { handTint } from './hand-tint';
import { material } from './materials';
import type { Binding, FigurePart } from './part';
import { plus, restBody } from './rest-joints';
import { mergeSurfaces, meshShapes } from './surface';
import type { Shape, Vec } from './shapes';

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
  const length = vec3.distance(thumb.points[1], thumb.points[0]);
  const beyond = (others[0].points[0][0] - p[0]) * k;
  if (beyond > -0.005 * s) {
    const near = smoothStep(0, 1, (0.03 * s - aside) / (0.022 * s)) * smoothStep(0, 1, (along / length + 0.15) / 0.5);
    take(thumb.bones[1], near * smoothStep(0, 1, (along / length - 0.85) / 0.3));
    take(thumb.bones[0], near);
  }
  // With the fingers beyond the knuckles.
  const near = others
    .map((chain) => {
      const [ahead] = besideBone(p, chain.points[0], chain.points[1]);
      const line = pointAt(chain, Math.max(0, ahead) / vec3.distance(chain.points[1], chain.points[0]));
      return { chain, ahead, weight: bell(p[2] - line[2], 0.0055 * s) + 1e-9 };
    })
    .sort((a, b) => b.weight - a.weight)
    .slice(0, 2);
  const total = near.reduce((sum, { weight }) => sum + weight, 0);
  const before = rest;
  for (const { chain, ahead, weight } of near) {
    const part = (before * weight * smoothStep(0, 1, (ahead + 0.01 * s) / (0.02 * s))) / total;
    if (part < 0.01 || shares.length > 2) continue;
    shares.push([number(chain.bones[0]), part]);
    rest -= part;
  }
  shares.push([number(hand), rest]);
  return shares.sort((a, b) => b[1] - a[1]);
}

/** How far along a bone and how far beside it a place is. */
function besideBone(p: Vec, from: Vec, to: Vec): [number, number] {
  const bone = vec3.subtract([0, 0, 0], to, from);
  const length = vec3.length(bone);
  const along = vec3.dot(vec3.subtract([0, 0, 0], p, from), bone) / length;
  const foot = vec3.scaleAndAdd([0, 0, 0], from, bone, Math.min(1, Math.max(0, along / length)));
  return [along, vec3.distance(p, foot)];
}
