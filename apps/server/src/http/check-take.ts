import type { ClipFacts } from '@merry-shadow/contracts/clip';
import type { TakeSettings } from '@merry-shadow/contracts/take';
import { checkResultLength, ResultTooLongError } from '@merry-shadow/core/passes/result-size';
import { checkSteps } from '@merry-shadow/core/passes/run-passes';
import type { TakeEdits } from '@merry-shadow/core/passes/take-edits';
import { AppError } from './errors';

/** Places lie within so many metres of the middle of the floor. */
const FARTHEST = 10_000;

interface TakeFrames {
  fromFrame: number;
  untilFrame: number;
  settings: Partial<TakeSettings>;
}

/** @throws AppError when a range or a frame that a setting names does not lie within the clip. */
export function checkFrames({ fromFrame, untilFrame, settings }: TakeFrames, { frames }: ClipFacts): void {
  if (!(untilFrame > fromFrame && untilFrame <= frames)) throw new AppError('BAD_RANGE');
  const named = {
    'settings.calibration': settings.calibration,
    'settings.performer.frame': settings.performer?.frame,
    'settings.cuts': settings.cuts?.length ? Math.max(...settings.cuts) : null,
  };
  for (const [field, frame] of Object.entries(named))
    if (frame !== null && frame !== undefined && frame >= frames)
      throw new AppError('BAD_FIELD', `${field}: the clip has only ${frames} frames.`);
}

/**
 * Checks edits on their way in; what is stored already was checked when it came.
 * @param take frames of the take and of its clip, and the clip's rate.
 * @throws AppError that names the field.
 */
export function checkEdits(
  { passes, plants }: TakeEdits,
  take: { frames: number; clipFrames: number; rate: number },
): void {
  const span = (field: string, from: number, until: number): void => {
    if (until <= from)
      throw new AppError('BAD_FIELD', `${field}: the end (${until}) must lie after the start (${from}).`);
    if (until > take.clipFrames)
      throw new AppError('BAD_FIELD', `${field}: the clip has only ${take.clipFrames} frames, not ${until}.`);
  };
  passes.forEach(({ range }, i) => range && span(`edits.passes.${i}.range`, ...range));
  plants?.forEach(({ from, until, place }, i) => {
    span(`edits.plants.${i}`, from, until);
    if (place?.some((metres) => Math.abs(metres) > FARTHEST))
      throw new AppError('BAD_FIELD', `edits.plants.${i}.place: it lies more than ${FARTHEST / 1000} km away.`);
  });
  try {
    checkSteps(passes);
    checkResultLength(take, passes);
  } catch (error) {
    throw new AppError(error instanceof ResultTooLongError ? 'TOO_LONG' : 'BAD_EDITS', (error as Error).message);
  }
}
