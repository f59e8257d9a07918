import { project, type PinholeCamera } from '../camera/pinhole';
import type { Side } from '../motion/humanoid';
import { isSeen, MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../observe/body';
import { FACE_MARK_COUNT } from '../observe/face';
import { HAND_MARK_COUNT } from '../observe/hands';
import type { Observations } from '../observe/observations';
import type { Truth } from './truth';
import { correlation } from './correlation';

/** What the tracker saw against what was there. Pixels. */
export interface MarkFigures {
  frames: number;
  bodySeen: number;
  handsSeen: Record<Side, number>;
  /** Mean distance of six marks of each seen hand from their joints, and the palm's mean length. */
  handErrorPx: number;
  palmPx: number;
  faceSeen: number;
  /** Correlation of lip opening over lip width with the true opening of the mouth; NaN where it never moves. */
  lipCorrelation: number;
}

/** Hand marks that lie at joints of the skeleton. */
const HAND_JOINTS: readonly (readonly [mark: number, joint: string])[] = [
  [0, 'Hand'],
  [5, 'IndexProximal'],
  [9, 'MiddleProximal'],
  [17, 'LittleProximal'],
  [7, 'IndexDistal'],
  [11, 'MiddleDistal'],
];
const LIPS = { top: 13, bottom: 14, right: 78, left: 308 };
/** Body marks near enough to joints to tell whose they are. */
const TELLING: readonly (readonly [MarkName, string])[] = (['left', 'right'] as const).flatMap((side) =>
  (
    [
      ['Shoulder', 'UpperArm'],
      ['Hip', 'UpperLeg'],
      ['Knee', 'LowerLeg'],
    ] as const
  ).map(([mark, joint]) => [`${side}${mark}` as MarkName, side + joint] as const),
);

function cameraAt({ camera, cameraPath }: Truth, frame: number): PinholeCamera {
  const now = cameraPath?.[frame];
  return now ? { ...camera, position: [now[0], now[1], now[2]], axes: now.slice(3) } : camera;
}

/** Where a joint is in the picture, pixels. */
export function jointPixel(truth: Truth, frame: number, joint: string): [number, number] {
  const { joints, positions } = truth;
  const at = joints.indexOf(joint) * 3;
  const [x, y] = project(
    cameraAt(truth, frame),
    positions[frame][at],
    positions[frame][at + 1],
    positions[frame][at + 2],
  );
  return [x, y];
}

/** @param first the truth's frame that the observations begin with. */
export function measureMarks(observations: Observations, truth: Truth, first = 0): MarkFigures {
  const { frames, hands, face, presence } = observations;
  let error = 0;
  let palm = 0;
  let count = 0;
  for (const side of ['left', 'right'] as const) {
    for (let frame = 0; frame < frames; frame++) {
      if (!hands || hands[side].presence[frame] === 0) continue;
      const at = (part: string): [number, number] => jointPixel(truth, first + frame, side + part);
      for (const [mark, joint] of HAND_JOINTS) {
        const i = (frame * HAND_MARK_COUNT + mark) * 2;
        const [x, y] = at(joint);
        error += Math.hypot(hands[side].marks[i] - x, hands[side].marks[i + 1] - y) / HAND_JOINTS.length;
      }
      const [[wx, wy], [mx, my]] = [at('Hand'), at('MiddleProximal')];
      palm += Math.hypot(wx - mx, wy - my);
      count++;
    }
  }
  const seen = (values: Float32Array | undefined): number => values?.filter((value) => value > 0).length ?? 0;
  return {
    frames,
    bodySeen: presence.filter((value) => value > 0.5).length,
    handsSeen: { left: seen(hands?.left.presence), right: seen(hands?.right.presence) },
    handErrorPx: count ? error / count : NaN,
    palmPx: count ? palm / count : NaN,
    faceSeen: seen(face?.presence),
    lipCorrelation: lipCorrelation(observations, truth, first),
  };
}

function lipCorrelation({ face, frames }: Observations, truth: Truth, first: number): number {
  if (!face) return NaN;
  const opening: number[] = [];
  const real: number[] = [];
  for (let frame = 0; frame < frames; frame++) {
    if (face.presence[frame] === 0) continue;
    const apart = (a: number, b: number): number => {
      const [i, k] = [a, b].map((mark) => (frame * FACE_MARK_COUNT + mark) * 3);
      return Math.hypot(face.marks[i] - face.marks[k], face.marks[i + 1] - face.marks[k + 1]);
    };
    opening.push(apart(LIPS.top, LIPS.bottom) / apart(LIPS.right, LIPS.left));
    real.push(truth.mouth[first + frame]);
  }
  return correlation(opening, real);
}

/**
 * In how many frames the marks of one tracked performer lie nearest to each of several people.
 * @param first the truths' frame that the observations begin with.
 * @returns one count for each truth; frames in which nobody was seen count for none.
 */
export function nearestPeople(observations: BodyObservations, truths: readonly Truth[], first = 0): number[] {
  const counts = truths.map(() => 0);
  for (let frame = 0; frame < observations.frames; frame++) {
    if (!isSeen(observations, frame)) continue;
    const errors = truths.map((truth) =>
      TELLING.reduce((sum, [mark, joint]) => {
        const at = (frame * MARK_COUNT + MARK[mark]) * 3;
        const [x, y] = jointPixel(truth, first + frame, joint);
        return sum + Math.hypot(observations.marks[at] - x, observations.marks[at + 1] - y);
      }, 0),
    );
    counts[errors.indexOf(Math.min(...errors))]++;
  }
  return counts;
}
