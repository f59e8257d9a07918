import { worldPositions } from '../../motion/motion';
import { SIDES, type Side } from '../../motion/humanoid';
import { jointIndex } from '../../motion/skeleton';
import { median } from '../../signal/joint-columns';
import { isSeen, MARK, MARK_COUNT, type BodyObservations } from '../../observe/body';
import type { DepthHint } from '../hints/depth-hints';
import type { ShotSolution } from '../solved';

/**
 * Palms of two people meet that lie nearer to each other in the picture than this part of a body's length (more where one is hidden, as one whose
 * visibility is `LEAST_SURE` at most), for so many seconds; they still do in between, for so many seconds, when they are told not farther apart than
 * twice as much, …
 */
const NEAR = 0.1;
const LEAST_SURE = 0.6;
const SECONDS = 0.3;
const BETWEEN = 0.6;
/** … and whose depths are not told farther apart than so many metres. */
const APART = 0.5;
/** A wrist seen less surely than this is hidden by the hand it meets, at most this part of a body's length beside the other wrist. */
const SURE = 0.75;
const GRIP = 0.04;
/** The depth at which hands meet is told every so many seconds, and at most so many times in a meeting. */
const TOLD_EVERY = 0.25;
const MOST_TOLD = 24;
/** … but not where a person told it so few seconds before or after. */
const PERSON_TOLD = 1;

/** Whose trunks lie over each other all the time, nearer than this part of a body's length in the median, is one and the same. */
const SAME_BODY = 0.08;

/** False where two takes of the same frames captured the same performer. */
export function isSomebodyElse(a: BodyObservations, b: BodyObservations): boolean {
  if (a.frames !== b.frames) return false;
  const hip = ({ marks }: BodyObservations, frame: number): number[] => {
    const [l, r] = (['leftHip', 'rightHip'] as const).map((mark) => (frame * MARK_COUNT + MARK[mark]) * 3);
    return [(marks[l] + marks[r]) / 2, (marks[l + 1] + marks[r + 1]) / 2];
  };
  const apart: number[] = [];
  for (let frame = 0; frame < a.frames; frame++) {
    if (!isSeen(a, frame) || !isSeen(b, frame)) continue;
    const [p, q] = [hip(a, frame), hip(b, frame)];
    apart.push(Math.hypot(p[0] - q[0], p[1] - q[1]) / bodyLength(a, b, frame));
  }
  return apart.length > 0 && median(apart) > SAME_BODY;
}

/** Frames in which a hand of one's own and a hand of somebody else meet. */
export interface Meeting {
  /** Which of the others. */
  other: number;
  mine: Side;
  theirs: Side;
  frames: number[];
}

/** Hands of others that an own hand stays together with in the picture; each hand meets one at a time, the nearest. */
export function findMeetings(own: BodyObservations, others: readonly BodyObservations[]): Meeting[] {
  const pairs = others.flatMap((other, i) =>
    SIDES.flatMap((mine) =>
      SIDES.map((theirs) => ({ other: i, mine, theirs, apart: palmsApart(own, mine, other, theirs) })),
    ),
  );
  const nearest = pairs.map((pair) =>
    Float64Array.from(pair.apart, (apart, frame) =>
      pairs.some(
        (rival) =>
          rival !== pair &&
          (rival.mine === pair.mine || (rival.other === pair.other && rival.theirs === pair.theirs)) &&
          rival.apart[frame] < apart,
      )
        ? Infinity
        : apart,
    ),
  );
  return pairs.flatMap(({ other, mine, theirs }, i) =>
    together(nearest[i], own.rate).map((frames) => ({ other, mine, theirs, frames })),
  );
}

/** How far two palms are apart in the picture in each frame, in what still counts as together; Infinity where one is not seen. */
function palmsApart(a: BodyObservations, mine: Side, b: BodyObservations, theirs: Side): Float64Array {
  const palm = ({ marks }: BodyObservations, side: Side, frame: number): [number, number] => {
    const [wrist, index] = (['Wrist', 'Index'] as const).map(
      (part) => (frame * MARK_COUNT + MARK[`${side}${part}`]) * 3,
    );
    return [(marks[wrist] + marks[index]) / 2, (marks[wrist + 1] + marks[index + 1]) / 2];
  };
  return Float64Array.from({ length: a.frames }, (_, frame) => {
    if (frame >= b.frames || !isSeen(a, frame) || !isSeen(b, frame)) return Infinity;
    const [p, q] = [palm(a, mine, frame), palm(b, theirs, frame)];
    const sure = Math.max(LEAST_SURE, Math.min(wristAt(a, mine, frame)[2], wristAt(b, theirs, frame)[2]));
    return Math.hypot(p[0] - q[0], p[1] - q[1]) / bodyLength(a, b, frame) / (NEAR / sure);
  });
}

/** Runs of frames in which two palms stay together. @param apart in what still counts as together. */
function together(apart: Float64Array, rate: number): number[][] {
  const runs: number[][] = [];
  let last = -Infinity;
  let loose = true;
  for (let frame = 0; frame < apart.length; frame++) {
    if (apart[frame] < 1) {
      if (runs.length > 0 && loose && frame - last <= BETWEEN * rate)
        for (let between = last + 1; between < frame; between++) runs[runs.length - 1].push(between);
      else runs.push([]);
      runs[runs.length - 1].push(frame);
      last = frame;
      loose = true;
    } else loose &&= apart[frame] < 2;
  }
  return runs.filter((frames) => frames.length >= SECONDS * rate);
}

/** Where hips and wrists of somebody are along the camera's axis in each frame, metres. */
export interface Depths {
  hips: Float64Array;
  wrists: Record<Side, Float64Array>;
}

/** Depths of somebody who was solved. */
export function depthsOf({ motion, camera }: Pick<ShotSolution, 'motion' | 'camera'>): Depths {
  const places = worldPositions(motion);
  const stride = motion.skeleton.joints.length * 3;
  const { axes, position } = camera;
  const of = (name: string): Float64Array => {
    const joint = jointIndex(motion.skeleton, name) * 3;
    return Float64Array.from({ length: motion.frames }, (_, frame) =>
      [0, 1, 2].reduce((sum, k) => sum - axes[6 + k] * (places[frame * stride + joint + k] - position[k]), 0),
    );
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
      const met = others[other]?.wrists[theirs][frame];
      if (met === undefined || i % step !== Math.floor(((frames.length - 1) % step) / 2)) return [];
      return [{ mark, frame, nearer: own.hips[frame] - (own.wrists[mine][frame] + met) / 2 }];
    });
  });
}

/** A hand that is hidden by the one it meets is where that one is. @returns the observations with such wrists' marks moved. */
export function withHiddenHands(
  own: BodyObservations,
  others: readonly BodyObservations[],
  meetings: readonly Meeting[],
): BodyObservations {
  const marks = own.marks.slice();
  for (const { other, mine, theirs, frames } of meetings)
    for (const frame of frames) {
      const [x, y, sure] = wristAt(own, mine, frame);
      const [seenX, seenY, seen] = wristAt(others[other], theirs, frame);
      const off = Math.hypot(x - seenX, y - seenY);
      const grip = GRIP * bodyLength(own, others[other], frame);
      if (sure > SURE || sure > seen || off < grip) continue;
      const at = (frame * MARK_COUNT + MARK[`${mine}Wrist`]) * 3;
      marks.set([seenX + ((x - seenX) * grip) / off, seenY + ((y - seenY) * grip) / off], at);
    }
  return { ...own, marks };
}

/** Place in the picture and visibility of a wrist. */
function wristAt({ marks }: BodyObservations, side: Side, frame: number): [x: number, y: number, visibility: number] {
  const at = (frame * MARK_COUNT + MARK[`${side}Wrist`]) * 3;
  return [marks[at], marks[at + 1], marks[at + 2]];
}

/** How long two bodies are in the picture, nose to ankle, in the mean, pixels. */
function bodyLength(a: BodyObservations, b: BodyObservations, frame: number): number {
  const [one, other] = [a, b].map(({ marks }) => {
    const [top, foot] = (['nose', 'leftAnkle'] as const).map((mark) => (frame * MARK_COUNT + MARK[mark]) * 3);
    return Math.hypot(marks[top] - marks[foot], marks[top + 1] - marks[foot + 1]);
  });
  return (one + other) / 2;
}
