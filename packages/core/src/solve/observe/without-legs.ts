import { SIDES } from '../../motion/humanoid';
import { MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';

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
