import { vec3 } from 'gl-matrix';
import { isSeen, MARK, MARK_COUNT, MARK_NAMES, type BodyObservations, type MarkName } from '../observe/body';
import { gaussianColumns } from '../passes/gaussian';
import { NETWORK_LEAN } from './joint-offsets';

const of = (side: string, parts: readonly string[]): number[] => parts.map((part) => MARK[(side + part) as MarkName]);
const ARM = ['Elbow', 'Wrist', 'Pinky', 'Index', 'Thumb'];
const FEET = ['Ankle', 'Heel', 'FootIndex'];
const HEAD = MARK_NAMES.flatMap((name, mark) => (/nose|Eye|Ear|mouth/.test(name) ? [mark] : []));

/** A bone whose direction is mended, the point it hangs on, and the points that go along. */
interface LeaningBone {
  from: number;
  to: number;
  angle: number;
  along: number[];
}

const BONES: readonly LeaningBone[] = ['left', 'right'].flatMap((side) => {
  const [hip, shoulder, knee, ankle] = of(side, ['Hip', 'Shoulder', 'Knee', 'Ankle']);
  return [
    { from: hip, to: shoulder, angle: NETWORK_LEAN.trunk, along: of(side, ARM) },
    { from: hip, to: knee, angle: NETWORK_LEAN.thigh, along: of(side, FEET) },
    { from: knee, to: ankle, angle: NETWORK_LEAN.shin, along: of(side, FEET.slice(1)) },
  ];
});

/**
 * Takes out the lean that the network gives to trunk, thighs and shins (see `NETWORK_LEAN`): each bone is turned
 * back about the body's own left, what hangs on it goes along without turning. The input is left alone.
 */
export function withoutLean(observations: BodyObservations): BodyObservations {
  const world = observations.world.slice();
  const axes = leftAxes(observations);
  for (let frame = 0; frame < observations.frames; frame++) {
    if (!isSeen(observations, frame)) continue;
    const at = (mark: number): number => (frame * MARK_COUNT + mark) * 3;
    const axis = vec3.normalize([0, 0, 0], [axes[frame * 3], axes[frame * 3 + 1], axes[frame * 3 + 2]]);
    const head = [0, 0, 0];
    for (const { from, to, angle, along } of BONES) {
      const bone = [0, 1, 2].map((k) => world[at(to) + k] - world[at(from) + k]) as vec3;
      const turned = turnAbout(axis, -angle, bone);
      for (let k = 0; k < 3; k++) {
        const shift = turned[k] - bone[k];
        for (const mark of [to, ...along]) world[at(mark) + k] += shift;
        // The head goes along with the middle of the shoulders.
        if (angle === NETWORK_LEAN.trunk) head[k] += shift / 2;
      }
    }
    for (const mark of HEAD) for (let k = 0; k < 3; k++) world[at(mark) + k] += head[k];
  }
  return { ...observations, world };
}

/** Seconds over which the body's left is smoothed: a body turns slower than a badly seen hip jumps. */
const CALM = 0.2;

/** Direction from the right hip to the left one, smoothed over time: frames × 3. */
export function leftAxes({ frames, rate, world, ...observations }: BodyObservations): Float32Array {
  const axes = new Float32Array(frames * 3);
  let last = [0, 0, 0];
  for (let frame = 0; frame < frames; frame++) {
    const [l, r] = [MARK.leftHip, MARK.rightHip].map((mark) => (frame * MARK_COUNT + mark) * 3);
    if (isSeen({ frames, rate, world, ...observations }, frame))
      last = [0, 1, 2].map((k) => world[l + k] - world[r + k]);
    axes.set(last, frame * 3);
  }
  return gaussianColumns(axes, 3, CALM * rate);
}

/** A vector turned about a unit axis (O. Rodrigues, 1840). */
export function turnAbout(axis: Readonly<vec3>, angle: number, v: Readonly<vec3>): vec3 {
  const out = vec3.scale([0, 0, 0], v as vec3, Math.cos(angle));
  const across = vec3.cross([0, 0, 0], axis as vec3, v as vec3);
  vec3.scaleAndAdd(out, out, across, Math.sin(angle));
  return vec3.scaleAndAdd(out, out, axis as vec3, vec3.dot(axis as vec3, v as vec3) * (1 - Math.cos(angle)));
}
