import { quat, vec3 } from 'gl-matrix';
import { lookAt, type PinholeCamera } from '@merry-shadow/core/camera/pinhole';
import { seededRandom } from '../random';
import { sampleTrack } from './keys';
import type { Script } from './script';

/** A hand that holds a camera: how far it strays at strength 1 (root mean square), and how slowly and fast, in Hz. */
const TURNS = { slow: 0.45, slowest: 0.15, slower: 1.1, tremor: 0.05, fast: 3, fastest: 7 };
/** Degrees of roll for one of pitch. */
const ROLL = 0.6;
const SHIFT = 0.012;
const WAVES = 4;

/**
 * Where the camera is in each frame of a clip: moved by keys, and as unsteady as a hand.
 * @returns one camera when it stands still, else one for each frame.
 */
export function cameraPath({ camera, rate, size, seed }: Script, frames: number): PinholeCamera[] {
  const { position, target, fieldOfView, moves, handheld, cuts } = camera;
  const standing = (place: typeof position, at: typeof target): PinholeCamera =>
    lookAt(place, at, fieldOfView, size[0], size[1]);
  if (cuts.length > 0) {
    const shots = [{ at: 0, position, target }, ...cuts]
      .sort((a, b) => a.at - b.at)
      .map((shot) => ({ from: shot.at * rate, filmed: standing(shot.position, shot.target) }));
    return Array.from(
      { length: frames },
      (_, frame) => (shots.findLast(({ from }) => frame >= from) ?? shots[0]).filmed,
    );
  }
  if (moves.length === 0 && handheld === 0) return [standing(position, target)];
  const keyed = (part: 'position' | 'target', axis: number): Float64Array =>
    sampleTrack(moves, (key) => key[part][axis], frames, rate, camera[part][axis]);
  const places = [0, 1, 2].map((axis) => keyed('position', axis));
  const targets = [0, 1, 2].map((axis) => keyed('target', axis));
  const random = seededRandom(seed * 31 + 7);
  const turns = [1, 1, ROLL].map((share) => {
    const slow = waves(random, frames, rate, TURNS.slowest, TURNS.slower);
    const fast = waves(random, frames, rate, TURNS.fast, TURNS.fastest);
    return slow.map((value, f) => share * handheld * (TURNS.slow * value + TURNS.tremor * fast[f]));
  });
  const shifts = [0, 1, 2].map(() =>
    waves(random, frames, rate, TURNS.slowest, TURNS.slower).map((value) => handheld * SHIFT * value),
  );
  return Array.from({ length: frames }, (_, f) => {
    const at = (columns: Float64Array[]): [number, number, number] => [columns[0][f], columns[1][f], columns[2][f]];
    const place = vec3.add([0, 0, 0], at(places), at(shifts)) as [number, number, number];
    const steady = standing(place, at(targets));
    const [pitch, yaw, roll] = at(turns);
    return { ...steady, axes: turnedAxes(steady.axes, quat.fromEuler([0, 0, 0, 1], pitch, yaw, roll)) };
  });
}

/** A camera's axes after a turn about themselves. */
function turnedAxes(axes: readonly number[], turn: quat): number[] {
  return [0, 1, 2].flatMap((row) => {
    const own = vec3.transformQuat([0, 0, 0], [row === 0 ? 1 : 0, row === 1 ? 1 : 0, row === 2 ? 1 : 0], turn);
    return [0, 1, 2].map((k) => own[0] * axes[k] + own[1] * axes[3 + k] + own[2] * axes[6 + k]);
  });
}

/** A curve of root mean square 1 from a few sines between two frequencies. */
function waves(random: () => number, frames: number, rate: number, lowest: number, highest: number): Float64Array {
  const parts = Array.from({ length: WAVES }, () => [lowest + random() * (highest - lowest), random() * 2 * Math.PI]);
  const size = Math.sqrt(2 / WAVES);
  return Float64Array.from({ length: frames }, (_, f) =>
    parts.reduce((sum, [hertz, phase]) => sum + size * Math.sin((2 * Math.PI * hertz * f) / rate + phase), 0),
  );
}
