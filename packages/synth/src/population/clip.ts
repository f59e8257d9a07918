import type { z } from 'zod';
import { worldPositions } from '@merry-shadow/core/motion/motion';
import { BUILDS, Script } from '../choreography/script';
import { recordingSeconds } from '../recording/perform-recording';
import { setStage } from '../stage';
import { drawBody, PEOPLE } from './bodies';
import { chance, type Chance } from './chance';
import { drawLook } from './looks';
import { drawMoves, PHRASES, type PhraseName } from './moves';

/** A recorded motion that some of a population perform. */
export interface Recording {
  name: string;
  /** The text of a BVH file. */
  bvh: string;
}

const PHRASE_NAMES = Object.keys(PHRASES) as PhraseName[];
const SIZES: readonly [number, number][] = [
  [640, 360],
  [640, 360],
  [640, 480],
  [360, 640],
];

/**
 * Draws one clip of a population: body, clothes, moves, room, light, lens and film.
 * @param index which clip; builders take turns.
 * @param recordings every fourth clip of each builder performs one of them, where there are some.
 */
export function populationClip(seed: number, index: number, recordings: readonly Recording[] = []): Script {
  const draw = chance(seed * 7919 + index * 104729 + 13);
  const build = BUILDS[index % BUILDS.length];
  const round = Math.floor(index / BUILDS.length);
  // Steps that share no divisor with the lists' lengths: builders, people and phrases meet in all combinations.
  const people = PEOPLE[(round * 2 + index) % PEOPLE.length];
  const body = drawBody(people, draw);
  const height = body.height as number;
  const rate = draw.of([24, 25, 30, 30]);
  const recording = recordings.length > 0 && round % 4 === 3 ? draw.of(recordings) : null;
  const seconds = draw.between(3.2, 4.4);
  const performer: z.input<typeof Script>['performers'][number] = {
    name: people,
    build,
    body,
    look: drawLook(draw),
    ...(recording
      ? { recording: recording.bvh }
      : {
          moves: drawMoves(draw, seconds, {
            height,
            facing: draw.maybe(0.5) ? draw.around(0, 30) : draw.between(-180, 180),
            first: PHRASE_NAMES[(round * 3 + index * 7) % PHRASE_NAMES.length],
            pose: draw.maybe(0.2) ? draw.of(['T', 'A'] as const) : null,
          }),
        }),
  };
  const size = draw.of(SIZES);
  const scene = draw.of(['room', 'room', 'room', 'pier', 'plain'] as const);
  const script: z.input<typeof Script> = {
    name: `${build}-${seed}-${String(index).padStart(2, '0')}`,
    about: `One of a population: ${people}, ${recording ? recording.name : 'drawn moves'}.`,
    seed: seed * 1000 + index,
    rate,
    seconds: recording ? Math.min(seconds, recordingSeconds(recording.bvh)) : seconds,
    size,
    scene,
    room: {
      wall: draw.between(1.8, 3.5),
      paint: draw.of(['#cdc6b8', '#e4e2dd', '#8fa0a8', '#b5a58d', '#55606a']),
      floor: draw.of(['#8f7d68', '#5d4c3c', '#a9a39a', '#6b7178']),
      skirting: draw.maybe(0.6),
      things: draw.of(['none', 'none', 'door', 'sparse', 'furnished'] as const),
      gradient: draw.maybe(0.4) ? draw.between(0.1, 0.7) : 0,
    },
    lamp: {
      aside: draw.between(-75, 75),
      above: draw.between(25, 80),
      ...(draw.maybe(0.5)
        ? { key: draw.between(0.9, 1.3), fill: draw.between(0.5, 0.9) }
        : { key: draw.between(0.2, 0.6), fill: draw.between(1.3, 2) }),
      warmth: draw.between(-0.6, 0.8),
    },
    film: {
      grain: draw.of([1, 2, 4, 8]),
      compression: draw.of([19, 23, 28]),
      blur: draw.maybe(0.3) ? draw.between(0.5, 1.6) : 0,
    },
    performers: [performer],
  };
  return Script.parse({ ...script, camera: framing(Script.parse(script), draw) });
}

/** A lens, a height and a side from which all of a performance is seen, at a distance that fills the picture more or less. */
function framing(script: Script, draw: Chance): z.input<typeof Script>['camera'] {
  const { performances } = setStage(script);
  const places = worldPositions(performances[0].motion);
  const [low, high] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (let i = 0; i < places.length; i++) {
    low[i % 3] = Math.min(low[i % 3], places[i]);
    high[i % 3] = Math.max(high[i % 3], places[i]);
  }
  const middle = low.map((value, k) => (value + high[k]) / 2) as [number, number, number];
  const fieldOfView = draw.between(45, 90);
  const [width, tall] = script.size;
  const focal = 1 / (2 * Math.tan((fieldOfView * Math.PI) / 360));
  const share = (side: number): number => (side / Math.max(width, tall)) * draw.between(0.8, 0.96);
  // Thirty centimetres for whatever leaves the joints: hands, hair, feet nearer to the lens.
  const across = Math.hypot(high[0] - low[0], high[2] - low[2]) + 0.3;
  const upright = high[1] - low[1] + 0.3;
  const depth = Math.hypot(high[0] - low[0], high[2] - low[2]) / 3;
  const distance = depth + focal * Math.max(upright / share(tall), across / share(width));
  const side = (draw.between(-40, 40) * Math.PI) / 180;
  const height = draw.between(0.4, 2.4);
  return {
    fieldOfView: Number(fieldOfView.toFixed(1)),
    position: [middle[0] + Math.sin(side) * distance, height, middle[2] + Math.cos(side) * distance],
    target: [middle[0], middle[1] + draw.between(-0.05, 0.05), middle[2]],
  };
}
