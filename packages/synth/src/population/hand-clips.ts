import { HAND_SHAPE_NAMES } from '@merry-shadow/core/hands/hand-shapes';
import type { z } from 'zod';
import { BUILDS, Script, type Moves } from '../choreography/script';
import { drawBody, PEOPLE } from './bodies';
import { chance, type Chance } from './chance';
import { drawLook } from './looks';

/** How near the camera is: pixels from the wrist to the knuckles, about. */
export const HAND_DISTANCES = { near: 110, middle: 60, far: 30 } as const;
export type HandDistance = keyof typeof HAND_DISTANCES;

const SECONDS = 6;
const SIZE: [number, number] = [1280, 720];

type Limb = 'left' | 'right';

/**
 * Draws a clip in which somebody shows all ready shapes with both hands, which turn and move about before the trunk and beside it.
 * Hands differ in size, length and girth of the fingers, and in every fifth clip in how they are built.
 * @param index which clip; builders of bodies take turns.
 * @param free share of the poses that are no ready shapes: each finger bends as it likes.
 */
export function handClip(seed: number, index: number, distance: HandDistance, free = 0): Script {
  const draw = chance(seed * 6271 + index * 92821 + 7);
  const people = PEOPLE[(index * 2 + seed) % PEOPLE.length];
  const height = drawBody(people, draw).height as number;
  const body = {
    ...drawBody(people, draw),
    height,
    hands: draw.between(0.88, 1.14),
    fingers: draw.between(0.9, 1.12),
    fingerGirth: draw.between(0.82, 1.2),
  };
  const fieldOfView = draw.between(45, 65);
  const focal = SIZE[0] / 2 / Math.tan((fieldOfView * Math.PI) / 360);
  // Hands are held some 35 cm before the body.
  const away = (focal * 0.054 * height * body.hands) / HAND_DISTANCES[distance] + 0.3;
  const side = (draw.between(-25, 25) * Math.PI) / 180;
  const chest = height * (distance === 'far' ? 0.55 : 0.74);
  return Script.parse({
    name: `hands-${distance}-${seed}-${String(index).padStart(2, '0')}`,
    about: `Hands that show all shapes: ${people}, ${distance}.`,
    seed: seed * 1000 + index,
    rate: 25,
    seconds: SECONDS,
    size: SIZE,
    scene: draw.of(['room', 'room', 'plain'] as const),
    room: {
      wall: draw.between(1.8, 3.5),
      paint: draw.of(['#cdc6b8', '#e4e2dd', '#8fa0a8', '#55606a']),
      things: draw.of(['none', 'door', 'sparse', 'furnished'] as const),
    },
    lamp: {
      aside: draw.between(-70, 70),
      above: draw.between(25, 75),
      key: draw.between(0.4, 1.2),
      fill: draw.between(0.6, 1.6),
    },
    film: { grain: draw.of([1, 2, 4]), compression: draw.of([19, 23]) },
    camera: {
      fieldOfView,
      position: [Math.sin(side) * away, chest + draw.between(-0.15, 0.25), Math.cos(side) * away],
      target: [0, chest, 0],
    },
    performers: [
      {
        name: people,
        build: BUILDS[index % BUILDS.length],
        hand: index % 5 === 4 ? 'blended' : 'fleshed',
        body,
        look: drawLook(draw),
        moves: moves(draw, free),
      },
    ],
  } satisfies z.input<typeof Script>);
}

/** Both arms go from place to place, both hands from shape to shape, each in a time of its own. */
function moves(draw: Chance, free: number): Partial<Moves> {
  const { between, maybe, of } = draw;
  const made: Pick<Moves, `${Limb}Arm` | `${Limb}Hand`> = { leftArm: [], rightArm: [], leftHand: [], rightHand: [] };
  for (const side of ['left', 'right'] as const) {
    for (let t = 0; t < SECONDS; t += between(0.6, 1.3)) {
      const arm = {
        raise: between(20, 75),
        forward: between(10, 75),
        turn: between(-95, 5),
        bend: between(70, 130),
        wrist: between(-35, 35),
        aside: between(-12, 12),
        roll: between(-40, 150),
      };
      made[`${side}Arm`].push({ at: t, ...arm });
      if (maybe(0.4)) made[`${side}Arm`].push({ at: (t += between(0.2, 0.5)), ...arm });
    }
    const shapes = [...HAND_SHAPE_NAMES].sort(() => between(-1, 1));
    let t = between(0, 0.2);
    for (let i = 0; t < SECONDS; i++) {
      const shape = shapes[i % shapes.length];
      const strength = maybe(0.75) ? 1 : between(0.4, 0.9);
      const key = free > 0 && maybe(free) ? { angles: freePose(draw), strength: 1 } : { shape, strength };
      made[`${side}Hand`].push({ at: t, curl: 0, spread: 0, ...key });
      made[`${side}Hand`].push({ at: (t += between(0.2, 0.5)), curl: 0, spread: 0, ...key });
      t += of([0.12, 0.2, 0.3, 0.45]);
    }
  }
  return { ...made, facing: between(-20, 20), blinks: [1, 3.2, 5.1] };
}

/** A pose of a hand whose fingers bend each as it likes, and yet somewhat alike; degrees (`HAND_ANGLES`). */
function freePose({ between }: Chance): number[] {
  const shared = between(0, 1);
  const bent = (share: number): number => Math.min(1, Math.max(0, share));
  const fingers = [1, 2, 3, 4].flatMap((finger) => {
    const own = 0.4 * shared + 0.6 * between(-0.1, 1.1);
    const middle = bent(own + between(-0.3, 0.3));
    const root = bent(own + between(-0.3, 0.3));
    return [
      88 * root - 4,
      102 * middle,
      64 * bent(middle + between(-0.2, 0.2)),
      (1 - root) * (between(-8, 8) + 6 * (finger - 2.4)),
    ];
  });
  return [between(-14, 28), between(-6, 50), between(-8, 60), between(-5, 55), ...fingers];
}
