import { SIDES, type Side } from '../../motion/humanoid';
import { worldPositions } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import { median } from '../../signal/joint-columns';
import { isSeen, MARK, MARK_COUNT, type BodyObservations } from '../../observe/body';
import type { SeenBody } from '../observe/observe-shot';
import { bridgeGaps, firstEstimate } from './first-estimate';
import { markDepth } from '../body/joint-offsets';
import { measureBody } from '../body/proportions';

/** Palms of two people meet that lie nearer to each other in the picture than this part of a body's length (more where one is hidden), for so many seconds, */
const NEAR = 0.1;
const SECONDS = 0.3;
/** … and whose depths are not told farther apart than so many metres. */
const APART = 0.5;
/** A wrist seen less surely than this is hidden by the hand it meets, at most this part of a body's length beside the other wrist. */
const SURE = 0.75;
const GRIP = 0.04;

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

/** Somebody in the shot, with the height they are known or told to have. */
export type MetPerson = SeenBody & { height?: number };

/**
 * Hands of two people that stay together in the picture are taken to meet: both get the depth between the two that they are
 * estimated at. Each of the two comes to the same depth when solved.
 * @returns the own observations with depths for wrists that meet somebody; the same where none does.
 */
export function withMeetingHands(own: MetPerson, others: readonly MetPerson[]): BodyObservations {
  const { observations } = own;
  const meetings = others.flatMap((other) => {
    const pairs = SIDES.flatMap((mine) =>
      SIDES.map((theirs) => ({ mine, theirs, frames: together(observations, mine, other.observations, theirs) })),
    ).filter(({ frames }) => frames.length > 0);
    if (pairs.length === 0) return [];
    const met = wristDepths(other);
    return pairs.map((pair) => ({ ...pair, other, met: met[pair.theirs] }));
  });
  if (meetings.length === 0) return observations;
  const depth = observations.depth?.slice() ?? new Float32Array(observations.frames * MARK_COUNT).fill(NaN);
  const marks = observations.marks.slice();
  const wrists = wristDepths(own);
  for (const { other, met, mine, theirs, frames } of meetings) {
    for (const frame of frames) {
      const [a, b] = [wrists[mine][frame], met[frame]];
      if (!(Math.abs(a - b) < APART)) continue;
      const mark = `${mine}Wrist` as const;
      depth[frame * MARK_COUNT + MARK[mark]] = (a + b) / 2 - markDepth(mark) * (own.height ?? 1.7);
      // A hand that is hidden is where the other one is.
      const [x, y, sure] = wristAt(observations, mine, frame);
      const [seenX, seenY, seen] = wristAt(other.observations, theirs, frame);
      const off = Math.hypot(x - seenX, y - seenY);
      const grip = GRIP * bodyLength(observations, other.observations, frame);
      if (sure > SURE || sure > seen || off < grip) continue;
      const at = (frame * MARK_COUNT + MARK[mark]) * 3;
      marks.set([seenX + ((x - seenX) * grip) / off, seenY + ((y - seenY) * grip) / off], at);
    }
  }
  return { ...observations, marks, depth };
}

/** Frames of runs in which two palms stay near each other in the picture. */
function together(a: BodyObservations, mine: Side, b: BodyObservations, theirs: Side): number[] {
  const palm = ({ marks }: BodyObservations, side: Side, frame: number): [number, number] => {
    const [wrist, index] = (['Wrist', 'Index'] as const).map(
      (part) => (frame * MARK_COUNT + MARK[`${side}${part}`]) * 3,
    );
    return [(marks[wrist] + marks[index]) / 2, (marks[wrist + 1] + marks[index + 1]) / 2];
  };
  const out: number[] = [];
  let run: number[] = [];
  for (let frame = 0; frame <= a.frames; frame++) {
    const both = frame < Math.min(a.frames, b.frames) && isSeen(a, frame) && isSeen(b, frame);
    const [p, q] = both ? [palm(a, mine, frame), palm(b, theirs, frame)] : [];
    const sure = both ? Math.min(wristAt(a, mine, frame)[2], wristAt(b, theirs, frame)[2]) : 0;
    if (p && q && Math.hypot(p[0] - q[0], p[1] - q[1]) < (NEAR / sure) * bodyLength(a, b, frame)) run.push(frame);
    else {
      if (run.length >= SECONDS * a.rate) out.push(...run);
      run = [];
    }
  }
  return out;
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

/** How far along the camera's axis both wrists lie in the first estimate, frame by frame, metres. */
function wristDepths(person: MetPerson): Record<Side, Float64Array> {
  const { motion, placed } = firstEstimate(person, measureBody(person.observations, person.height));
  bridgeGaps(motion, placed);
  const places = worldPositions(motion);
  const stride = motion.skeleton.joints.length * 3;
  const of = (side: Side): Float64Array => {
    const joint = jointIndex(motion.skeleton, `${side}Hand`) * 3;
    return Float64Array.from({ length: motion.frames }, (_, frame) => -places[frame * stride + joint + 2]);
  };
  return { left: of('left'), right: of('right') };
}
