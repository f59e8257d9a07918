import type { FaceShape } from '@merry-shadow/core/face/face-shapes';
import type { z } from 'zod';
import { BUILDS, Script, type FaceFeatures, type Moves } from '../choreography/script';
import { drawBody, PEOPLE } from './bodies';
import { chance, type Chance } from './chance';
import { drawLook } from './looks';

const SECONDS = 9;
const RATE = 25;

/** Expressions that faces make in turn: shapes of both sides are made together, or one side alone. */
const EXPRESSIONS: readonly (readonly FaceShape[])[] = [
  ['jawOpen'],
  ['mouthSmileLeft', 'mouthSmileRight'],
  ['mouthPucker'],
  ['mouthFunnel', 'jawOpen'],
  ['mouthFrownLeft', 'mouthFrownRight'],
  ['mouthStretchLeft', 'mouthStretchRight'],
  ['mouthSmileLeft', 'mouthSmileRight', 'jawOpen'],
  ['mouthLeft'],
  ['mouthRight'],
  ['mouthUpperUpLeft', 'mouthUpperUpRight'],
  ['mouthLowerDownLeft', 'mouthLowerDownRight'],
  ['mouthShrugLower'],
  ['mouthFunnel'],
  ['jawLeft'],
  ['jawRight'],
  ['mouthSmileLeft'],
  ['mouthSmileRight'],
  ['mouthDimpleLeft', 'mouthDimpleRight'],
];
const UPPER: readonly (readonly FaceShape[])[] = [
  ['browInnerUp', 'browOuterUpLeft', 'browOuterUpRight'],
  ['browDownLeft', 'browDownRight'],
  ['browInnerUp'],
  ['browOuterUpLeft', 'browOuterUpRight'],
  ['eyeWideLeft', 'eyeWideRight'],
  ['eyeSquintLeft', 'eyeSquintRight'],
  ['browOuterUpLeft'],
  ['browOuterUpRight'],
];

const IRISES = ['#3f5a55', '#4a6a84', '#5a4630', '#3a2618', '#2a1a12', '#6b6340'];

/** A face unlike others: eyes, lids, mouth, lips and brows. */
export function drawFace({ between }: Chance): Omit<FaceFeatures, 'nose' | 'jaw' | 'iris'> {
  return {
    eyes: between(0.86, 1.14),
    apart: between(0.93, 1.08),
    lids: between(0.8, 1.25),
    mouth: between(0.86, 1.18),
    lips: between(0.7, 1.4),
    brows: between(-0.8, 0.8),
  };
}

/** What only sculpted faces have of their own. */
function drawSculpture({ between, of }: Chance): Pick<FaceFeatures, 'nose' | 'jaw' | 'iris'> {
  return { nose: between(0.7, 1.35), jaw: between(0.88, 1.15), iris: of(IRISES) };
}

/**
 * Draws a clip of a face near the camera that makes expressions, looks about, blinks and turns; in every fifth clip on the builder's own head.
 * @param index which clip; builders take turns.
 * @param turned how far the head turns, degrees (standard deviation); 0 as a camera sees it that is held on the head.
 * @param tall pixels of the face, chin to hair, about.
 */
export function faceClip(seed: number, index: number, turned = 14, tall = 230): Script {
  const draw = chance(seed * 7331 + index * 51407 + 11);
  const people = PEOPLE[(index * 3 + seed) % PEOPLE.length];
  const body = drawBody(people, draw);
  const height = body.height as number;
  const fieldOfView = draw.between(40, 65);
  const size: [number, number] = [640, 480];
  const focal = size[0] / 2 / Math.tan((fieldOfView * Math.PI) / 360);
  // A camera on the head looks at the middle of the face, whatever the head's size.
  const head = turned === 0 ? (body.head as number) : 1;
  const away = (focal * 0.115 * height * head) / tall;
  const eyes = height * (1 - 0.08 * head);
  const side = (draw.between(-12, 12) * Math.PI) / 180;
  return Script.parse({
    name: `${turned === 0 ? 'held-' : ''}face-${seed}-${String(index).padStart(2, '0')}`,
    about: `A face that makes expressions: ${people}.`,
    seed: seed * 1000 + index,
    rate: RATE,
    seconds: SECONDS,
    size,
    scene: draw.of(['room', 'plain'] as const),
    room: { wall: draw.between(1.8, 3.5), paint: draw.of(['#cdc6b8', '#e4e2dd', '#8fa0a8', '#55606a']) },
    lamp: {
      aside: draw.between(-60, 60),
      above: draw.between(25, 65),
      key: draw.between(0.4, 1),
      fill: draw.between(0.8, 1.6),
    },
    film: { grain: draw.of([1, 2, 4]), compression: draw.of([19, 23]) },
    camera: {
      fieldOfView,
      position: [Math.sin(side) * away, eyes + draw.between(-0.08, 0.08), Math.cos(side) * away],
      target: [0, eyes, 0],
    },
    performers: [
      {
        name: people,
        build: BUILDS[index % BUILDS.length],
        head: index % 5 === 4 ? 'built' : 'sculpted',
        body,
        look: {
          ...drawLook(draw),
          cap: null,
          face: { ...drawFace(draw), ...drawSculpture(chance(seed * 977 + index)) },
        },
        moves: moves(draw, turned),
      },
    ],
  } satisfies z.input<typeof Script>);
}

/** Expressions of mouth and brows, gaze, blinks and head, each in a time of its own. */
function moves(draw: Chance, turned: number): Partial<Moves> {
  const { between, around, maybe } = draw;
  const lower = row(draw, EXPRESSIONS, 0.28, 0.5);
  const upper = row(draw, UPPER, 0.4, 0.9);
  const times = [...new Set([...lower, ...upper].map(({ at }) => at))].sort((a, b) => a - b);
  const at = (keys: typeof lower, t: number): Partial<Record<FaceShape, number>> =>
    keys.findLast((key) => key.at <= t)?.shapes ?? {};
  const gaze: Moves['gaze'] = [];
  for (let t = 0.3; t < SECONDS; t += between(0.35, 1)) {
    const [across, up] = [around(0, 14), around(0, 9)].map((angle) => Math.max(-28, Math.min(28, angle)));
    gaze.push({ at: t, across, up }, { at: t + 0.28, across, up });
  }
  const head: Moves['head'] = [{ at: 0, nod: 0, turn: 0, tilt: 0 }];
  for (let t = 1.2; t < SECONDS; t += between(0.5, 1.2))
    head.push({ at: t, nod: around(0, turned * 0.6), turn: around(0, turned), tilt: around(0, turned * 0.4) });
  const blinks: number[] = [];
  for (let t = between(0.6, 1.4); t < SECONDS - 0.3; t += between(0.8, 2.2)) blinks.push(t);
  return {
    face: times.map((t) => ({ at: t, shapes: { ...at(lower, t), ...at(upper, t) } })),
    gaze: maybe(0.95) ? gaze.sort((a, b) => a.at - b.at) : [],
    head,
    blinks,
  };
}

/** Expressions one after the other: made, held, and let go, as keys of their own times. */
function row({ between, maybe }: Chance, all: readonly (readonly FaceShape[])[], hold: number, pause: number) {
  const keys: { at: number; shapes: Partial<Record<FaceShape, number>> }[] = [{ at: 0, shapes: {} }];
  const order = [...all].sort(() => between(-1, 1));
  for (let i = 0, t = between(0.9, 1.3); t < SECONDS - 0.6; i++) {
    const strength = maybe(0.6) ? 1 : between(0.4, 0.9);
    const shapes = Object.fromEntries(
      order[i % order.length].map((shape) => [shape, shape === 'jawOpen' ? strength * between(0.3, 1) : strength]),
    );
    keys.push({ at: t, shapes: {} }, { at: t + 0.15, shapes }, { at: (t += 0.15 + between(0.1, hold)), shapes });
    keys.push({ at: (t += 0.15), shapes: {} });
    t += maybe(0.5) ? between(0.05, pause) : 0.02;
  }
  return keys;
}
