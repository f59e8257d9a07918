import { FINGERS, fingerBones, type Side } from '@merry-shadow/core/motion/humanoid';
import type { Skeleton } from '@merry-shadow/core/motion/skeleton';
import type { Performer } from '../choreography/script';
import { material } from './materials';
import type { FigurePart } from './part';
import { restBody } from './rest-joints';
import type { Shape, Vec } from './shapes';
import { meshShapes } from './surface';

/** A hand of blended shapes, for bodies of all recipes. */
export function blendedHand(side: Side, performer: Performer, skeleton: Skeleton): FigurePart {
  const { joint, s } = restBody(performer, skeleton);
  const shapes = handShapes(side, joint, s * performer.body.hands, performer.body.fingerGirth);
  return { surface: meshShapes(shapes, 0.0035), bone: (owner) => shapes[owner].bone };
}

/** @param s metres for one of a body of 1.75 m. @param girth of the fingers. */
function handShapes(side: Side, joint: (name: string) => Vec, s: number, girth: number): Shape[] {
  const skin = material('skin');
  const wrist = joint(`${side}Hand`);
  const k = side === 'left' ? 1 : -1;
  const hand = `${side}Hand`;
  const at = (x: number, y: number, z: number): Vec => [wrist[0] + k * x * s, wrist[1] + y * s, wrist[2] + z * s];
  const shapes: Shape[] = [
    {
      kind: 'cone',
      a: at(-0.05, 0, 0),
      b: at(0.012, 0, 0),
      radii: [0.028 * s, 0.026 * s],
      flat: 1.12,
      material: skin,
      bone: hand,
      blend: 0.02 * s,
    },
    {
      kind: 'ellipsoid',
      a: at(0.05, -0.002, 0),
      b: [0.053 * s, 0.017 * s, 0.041 * s],
      material: skin,
      bone: hand,
      blend: 0.018 * s,
    },
    {
      kind: 'ellipsoid',
      a: at(0.034, -0.008, 0.024),
      b: [0.03 * s, 0.016 * s, 0.02 * s],
      material: skin,
      bone: hand,
      blend: 0.015 * s,
    },
  ];
  for (const finger of FINGERS) {
    const bones = fingerBones(finger).map((bone) => side + finger + bone);
    const points = bones.map(joint);
    const last = points[2];
    const before = points[1];
    const end = [0, 1, 2].map((i) => last[i] + (last[i] - before[i]) * 0.72) as unknown as Vec;
    const r = (finger === 'Thumb' ? 0.0125 : finger === 'Little' ? 0.0086 : 0.0102) * s * girth;
    [points[0], points[1], points[2], end].slice(0, 3).forEach((from, i) => {
      const to = [points[1], points[2], end][i];
      shapes.push({
        kind: 'cone',
        a: from,
        b: to,
        radii: [r * (1.06 - 0.08 * i), r * (1 - 0.09 * i)],
        material: skin,
        bone: bones[i],
        blend: 0.007 * s,
      });
    });
  }
  return shapes;
}
