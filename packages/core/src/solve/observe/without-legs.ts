import { SIDES } from '../../motion/humanoid';
import { isSeen, MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';

const LEG_MARKS = SIDES.flatMap((side) =>
  (['Knee', 'Ankle', 'Heel', 'FootIndex'] as const).map((part) => `${side}${part}` as MarkName),
);

/** The same observations with legs that were never seen: what the network guesses of them is not believed. */
export function withoutLegs(observations: BodyObservations): BodyObservations {
  const marks = observations.marks.slice();
  for (let frame = 0; frame < observations.frames; frame++)
    for (const name of LEG_MARKS) marks[(frame * MARK_COUNT + MARK[name]) * 3 + 2] = 0;
  return { ...observations, marks };
}

/** Knees and ankles that are seen less surely than this are not seen, in this share of the frames. */
const UNSURE = 0.15;
const HARDLY_EVER = 0.85;

/** Whether the legs were hardly ever seen: a performer who is filmed from the waist up. */
export function legsUnseen(observations: BodyObservations): boolean {
  let [seen, without] = [0, 0];
  for (let frame = 0; frame < observations.frames; frame++) {
    if (!isSeen(observations, frame)) continue;
    seen++;
    const sure = (['leftKnee', 'rightKnee', 'leftAnkle', 'rightAnkle'] as const).map(
      (name) => observations.marks[(frame * MARK_COUNT + MARK[name]) * 3 + 2],
    );
    if (Math.max(...sure) < UNSURE) without++;
  }
  return seen > 0 && without >= HARDLY_EVER * seen;
}
