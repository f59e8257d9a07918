import { vec3 } from 'gl-matrix';
import { solePoints, soleTrack } from '@merry-shadow/core/ground/floor';
import { PART_WORDS } from '@merry-shadow/core/ground/plants';
import { SIDES } from '@merry-shadow/core/motion/humanoid';
import { worldPositions, type Motion } from '@merry-shadow/core/motion/motion';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';
import { nameWords } from '@merry-shadow/core/motion/name-words';
import type { TakeCurve } from './take-curves';

const DEGREES = 180 / Math.PI;
const SPED = ['hips', 'head', 'leftHand', 'rightHand', 'leftFoot', 'rightFoot'] as const;
/** Bends, by the three joints that they lie between. */
const BENDS: readonly (readonly [part: string, upper: string, middle: string, end: string])[] = [
  ['elbow', 'UpperArm', 'LowerArm', 'Hand'],
  ['knee', 'UpperLeg', 'LowerLeg', 'Foot'],
];

/** Places of all joints, worked out once for each motion. */
const placed = new WeakMap<Motion, Float64Array>();
function placeOf(motion: Motion, joint: string): (frame: number) => vec3 {
  const places = placed.get(motion) ?? worldPositions(motion);
  placed.set(motion, places);
  const [index, joints] = [jointIndex(motion.skeleton, joint), motion.skeleton.joints.length];
  return (frame) => {
    const at = (frame * joints + index) * 3;
    return [places[at], places[at + 1], places[at + 2]];
  };
}
const between = (a: vec3, b: vec3): vec3 => vec3.subtract(vec3.create(), b, a);
/** The angle between two directions, degrees. */
const angle = (a: vec3, b: vec3): number => vec3.angle(a, b) * DEGREES;
const inEachFrame = ({ frames }: Motion, value: (frame: number) => number): number[] =>
  Array.from({ length: frames }, (_, frame) => value(frame));

/** What can be read of the body: how high its soles are, how fast it is, how far it is bent. */
export function bodyCurves({ skeleton }: Motion): TakeCurve[] {
  const has = (joint: string): boolean => jointIndex(skeleton, joint) >= 0;
  const soles = solePoints({ skeleton }).map((point): TakeCurve => ({
    id: `height.${point.name}`,
    title: `height of the ${PART_WORDS[point.name]}`,
    unit: 'cm',
    part: point.name,
    values(motion) {
      const track = soleTrack(motion, [point]);
      return inEachFrame(motion, (frame) => 100 * track[frame * 3 + 1]);
    },
  }));
  const speeds = SPED.filter(has).map((joint): TakeCurve => ({
    id: `speed.${joint}`,
    title: `speed of the ${nameWords(joint)}`,
    unit: 'm/s',
    values(motion) {
      const at = placeOf(motion, joint);
      // Over two frames, so that it belongs to the frame between them.
      return inEachFrame(motion, (frame) => {
        const [from, to] = [Math.max(0, frame - 1), Math.min(motion.frames - 1, frame + 1)];
        return to > from ? (vec3.distance(at(from), at(to)) * motion.rate) / (to - from) : 0;
      });
    },
  }));
  const bends = SIDES.flatMap((side) =>
    BENDS.filter(([, ...joints]) => joints.every((joint) => has(side + joint))).map(
      ([part, upper, middle, end]): TakeCurve => ({
        id: `bend.${side}.${part}`,
        title: `bend of the ${side} ${part}`,
        unit: '°',
        values(motion) {
          const [a, b, c] = [upper, middle, end].map((joint) => placeOf(motion, side + joint));
          return inEachFrame(motion, (frame) => angle(between(a(frame), b(frame)), between(b(frame), c(frame))));
        },
      }),
    ),
  );
  const lean: TakeCurve = {
    id: 'lean',
    title: 'lean of the trunk',
    unit: '°',
    values(motion) {
      const [hips, neck] = ['hips', 'neck'].map((joint) => placeOf(motion, joint));
      return inEachFrame(motion, (frame) => angle(between(hips(frame), neck(frame)), [0, 1, 0]));
    },
  };
  return [...soles, ...speeds, ...bends, ...(has('neck') ? [lean] : [])];
}
