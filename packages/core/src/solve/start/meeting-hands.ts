import { SIDES, type Side } from '../../motion/humanoid';
import { isSeen, MARK, MARK_COUNT, type BodyObservations } from '../../observe/body';
import { bodyLength } from '../observe/somebody-else';

/**
 * Palms of two people meet that lie nearer to each other in the picture than this part of a body's length (more where one is hidden, as one whose
 * visibility is `LEAST_SURE` at most), for so many seconds; they still do in between, for so many seconds, when they are told not farther apart than
 * twice as much.
 */
const NEAR = 0.1;
const LEAST_SURE = 0.6;
const SECONDS = 0.3;
const BETWEEN = 0.6;
/** A wrist seen less surely than this is hidden by the hand it meets, at most this part of a body's length beside the other wrist. */
const SURE = 0.75;
const GRIP = 0.04;
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
