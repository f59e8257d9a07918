import type { ClipFacts } from '@merry-shadow/contracts/clip';
import type { TakeSettings } from '@merry-shadow/contracts/take';
import { checkResultLength, ResultTooLongError } from '@merry-shadow/core/passes/result-size';
import { kindOf, recordsOf } from '@merry-shadow/core/edits/registry';
import { passNamed } from '@merry-shadow/core/passes/registry';
import { checkSteps } from '@merry-shadow/core/passes/run-passes';
import type { TakeEdits } from '@merry-shadow/core/edits/take-edits';
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
    'settings.neutral': settings.neutral,
    'settings.performer.frame': settings.performer?.frame,
    'settings.performerAgain': settings.performerAgain?.length
      ? Math.max(...settings.performerAgain.map(({ frame }) => frame))
      : null,
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
export function checkEdits({ records }: TakeEdits, take: { frames: number; clipFrames: number; rate: number }): void {
  records.forEach((record, i) => {
    const span = kindOf(record).span(record);
    if (!span) return;
    const [from, until] = span;
    if (until <= from)
      throw new AppError('BAD_FIELD', `edits.records.${i}: the end (${until}) must lie after the start (${from}).`);
    if (from < 0 || until > take.clipFrames)
      throw new AppError(
        'BAD_FIELD',
        `edits.records.${i}: the clip has only frames 0 to ${take.clipFrames}, not ${from} to ${until}.`,
      );
  });
  for (const { place } of recordsOf(records, 'plant'))
    if (place?.some((metres) => Math.abs(metres) > FARTHEST))
      throw new AppError('BAD_FIELD', `edits: a plant lies more than ${FARTHEST / 1000} km away.`);
  if (new Set(records.map(({ id }) => id)).size < records.length)
    throw new AppError('BAD_FIELD', 'edits: two records have the same id.');
  try {
    const [passes, timing] = [recordsOf(records, 'pass'), recordsOf(records, 'timing')];
    checkSteps([...passes, ...timing]);
    for (const { pass, kind } of [...passes, ...timing])
      if ((passNamed(pass).timing === true) !== (kind === 'timing'))
        throw new Error(`The pass "${passNamed(pass).title}" can't be used as ${kind}.`);
    checkResultLength(
      take,
      timing.filter(({ muted }) => !muted),
    );
  } catch (error) {
    throw new AppError(error instanceof ResultTooLongError ? 'TOO_LONG' : 'BAD_EDITS', (error as Error).message);
  }
}
