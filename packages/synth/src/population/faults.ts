import type { JudgedKind } from '@merry-shadow/core/judge/judge';
import { Script, type Script as ScriptType } from '../choreography/script';
import { populationClip } from './clip';

type Vector = [number, number, number];

/** A clip without faults: even light, a tripod, the whole body. @param index which of the population. */
export function cleanClip(seed: number, index: number): ScriptType {
  const script = populationClip(seed, index);
  const [performer] = script.performers;
  return Script.parse({
    ...script,
    name: `clean-${seed}-${index}`,
    rate: 30,
    seconds: 3,
    size: index % 3 === 2 ? [540, 960] : [960, 540],
    scene: index % 4 === 3 ? 'pier' : 'room',
    room: { ...script.room, gradient: 0 },
    lamp: { aside: 40, above: 50, key: 0.9, fill: 1 },
    film: { grain: 2, compression: 19, blur: 0 },
    camera: { ...script.camera, handheld: 0 },
    performers: [{ ...performer, look: { ...performer.look, shirt: '#a8402f', trousers: '#26304a', sleeves: 1 } }],
  });
}

/** The same clip with one fault. */
export function faultyClip(seed: number, index: number, fault: FootageFault): ScriptType {
  const clean = cleanClip(seed, index);
  return Script.parse({ ...clean, ...FAULTS[fault](clean), name: `${fault}-${seed}-${index}` });
}

/** What is changed of a clean clip, by the name of the judgement that shall find it. */
const FAULTS = {
  // The camera looks too far up: feet and shins leave the picture.
  framing: ({ camera, size }) => ({ camera: { ...camera, target: raised(camera, 0.6 * halfHeight(camera, size)) } }),
  size: ({ camera }) => ({ camera: { ...camera, position: farther(camera, 3) } }),
  light: ({ lamp }) => ({ lamp: { ...lamp!, key: 0.06, fill: 0.1 } }),
  burnt: ({ lamp, performers: [one] }) => ({
    lamp: { ...lamp!, key: 2, fill: 3 },
    performers: [{ ...one, look: { ...one.look, shirt: '#f4f2ea', trousers: '#e8e4da' } }],
  }),
  blur: () => ({ film: film({ blur: 5 }) }),
  contrast: ({ room, performers: [one] }) => ({
    scene: 'room',
    room: { ...room, things: 'none', floor: room.paint },
    performers: [{ ...one, look: { ...one.look, shirt: room.paint, trousers: room.paint, pattern: 'plain' } }],
  }),
  noise: () => ({ film: film({ grain: 26 }) }),
  compression: () => ({ film: film({ compression: 41 }) }),
  camera: ({ camera }) => ({ camera: { ...camera, handheld: 2 } }),
  cuts: ({ camera }) => ({
    camera: { ...camera, cuts: [{ at: 1.5, position: aside(camera, 35), target: camera.target }] },
  }),
  people: ({ performers: [one], camera }) => ({
    camera: { ...camera, position: farther(camera, 1.5) },
    performers: [
      one,
      { ...one, name: 'another', moves: { ...one.moves, place: besidePlace(camera), walks: [], steps: [] } },
    ],
  }),
  rate: () => ({ rate: 10 }),
} satisfies Partial<Record<JudgedKind, (clean: ScriptType) => Partial<ScriptType>>>;
export type FootageFault = keyof typeof FAULTS;
/** Faults of footage that are made into clips with known truth. */
export const FOOTAGE_FAULTS = Object.keys(FAULTS) as FootageFault[];

const film = (change: Partial<ScriptType['film']>): ScriptType['film'] => ({
  flicker: 0,
  flickerHertz: 11,
  adapt: 0,
  grain: 2,
  blur: 0,
  compression: 19,
  ...change,
});

type Placed = { position: readonly number[]; target: readonly number[] };
const from = ({ position, target }: Placed, part: number): Vector =>
  target.map((value, k) => value + part * (position[k] - value)) as Vector;
const distance = ({ position, target }: Placed): number => Math.hypot(...position.map((value, k) => value - target[k]));

const farther = (camera: Placed, times: number): Vector => from(camera, times);
/** Half the height of what is seen, as a share of the distance. */
const halfHeight = ({ fieldOfView }: { fieldOfView: number }, [width, height]: readonly number[]): number =>
  (Math.tan((fieldOfView * Math.PI) / 360) * height) / Math.max(width, height);
/** A target that is higher by a share of the distance. */
const raised = (camera: Placed, share: number): Vector => {
  const [x, y, z] = camera.target;
  return [x, y + share * distance(camera), z];
};
/** The camera somewhere else round its target. */
function aside({ position, target }: Placed, degrees: number): Vector {
  const [x, z] = [position[0] - target[0], position[2] - target[2]];
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return [target[0] + c * x - s * z, position[1] + 0.3, target[2] + s * x + c * z];
}
/** A place to the side of what the camera looks at. */
function besidePlace({ position, target }: Placed): [number, number] {
  const [x, z] = [position[0] - target[0], position[2] - target[2]];
  const length = Math.hypot(x, z) || 1;
  return [target[0] + (z / length) * 1.1, target[2] - (x / length) * 1.1];
}
