import { project } from '../../camera/pinhole';
import type { Side } from '../../motion/humanoid';
import { worldPositions } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import type { DepthHint } from '../hints/depth-hints';
import type { ShotSolution } from '../solved';
import type { Meeting } from './meeting-hands';

/** Hands that meet are not told farther apart than so many metres along the view. */
const APART = 0.5;
/** The depth at which hands meet is told every so many seconds, and at most so many times in a meeting. */
const TOLD_EVERY = 0.25;
const MOST_TOLD = 24;
/** … but not where a person told it so few seconds before or after. */
const PERSON_TOLD = 1;

/** Where hips and wrists of somebody are along the camera's axis in each frame, metres. */
export interface Depths {
  hips: Float64Array;
  wrists: Record<Side, Float64Array>;
}

/** Depths of somebody who was solved. */
export function depthsOf({ motion, camera }: Pick<ShotSolution, 'motion' | 'camera'>): Depths {
  const places = worldPositions(motion);
  const stride = motion.skeleton.joints.length * 3;
  const of = (name: string): Float64Array => {
    const joint = jointIndex(motion.skeleton, name) * 3;
    return Float64Array.from({ length: motion.frames }, (_, frame) => {
      const at = frame * stride + joint;
      return project(camera, places[at], places[at + 1], places[at + 2])[2];
    });
  };
  const [left, right] = [of('leftUpperLeg'), of('rightUpperLeg')];
  return {
    hips: left.map((value, frame) => (value + right[frame]) / 2),
    wrists: { left: of('leftHand'), right: of('rightHand') },
  };
}

/** Of meetings those frames in which both hands are at one depth, nearly: hands that lie over each other in the picture may be far apart. */
export function atOneDepth(meetings: readonly Meeting[], own: Depths, others: readonly (Depths | null)[]): Meeting[] {
  return meetings.map((meeting) => {
    const [a, b] = [own.wrists[meeting.mine], others[meeting.other]?.wrists[meeting.theirs]];
    return { ...meeting, frames: b ? meeting.frames.filter((frame) => Math.abs(a[frame] - b[frame]) < APART) : [] };
  });
}

/**
 * What meetings tell of the own wrists' depths: each hand comes half of the way to the other. Each of the two comes to the same depth when solved.
 * @param own depths as each was solved alone. @param others likewise.
 * @param told what a person told of own depths.
 */
export function meetingHints(
  meetings: readonly Meeting[],
  own: Depths,
  others: readonly (Depths | null)[],
  rate: number,
  told: readonly DepthHint[] = [],
): DepthHint[] {
  return meetings.flatMap(({ other, mine, theirs, frames }) => {
    const mark = `${mine}Wrist` as const;
    const step = Math.ceil(Math.max(TOLD_EVERY * rate, frames.length / MOST_TOLD));
    return frames.flatMap((frame, i): DepthHint[] => {
      if (told.some((one) => one.mark === mark && Math.abs(one.frame - frame) <= PERSON_TOLD * rate)) return [];
      // Evenly, as far from the one end as from the other.
      const met = others[other]?.wrists[theirs][frame];
      if (met === undefined || i % step !== Math.floor(((frames.length - 1) % step) / 2)) return [];
      return [{ mark, frame, nearer: own.hips[frame] - (own.wrists[mine][frame] + met) / 2 }];
    });
  });
}
