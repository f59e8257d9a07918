import { nanoid } from 'nanoid';
import { HiddenMarkRecord, MovedMarkRecord } from '@merry-shadow/core/edits/kinds/told-record';
import { withoutRecords, withRecord, type TakeEdits } from '@merry-shadow/core/edits/take-edits';
import type { MarkName } from '@merry-shadow/core/observe/body';

/** The edits with a mark put somewhere in a frame, in the place of what was said of it there. @param x, y pixels of the picture. */
export function withMovedMark(edits: TakeEdits, mark: MarkName, frame: number, x: number, y: number): TakeEdits {
  const others = withoutRecords(
    edits,
    (one) =>
      (one.kind === 'moved-mark' && one.mark === mark && one.frame === frame) ||
      (one.kind === 'hidden-mark' && one.mark === mark && frame >= one.from && frame < one.until),
  );
  return withRecord(others, MovedMarkRecord.parse({ kind: 'moved-mark', id: nanoid(10), mark, frame, x, y }));
}

/** The edits with a mark said not to be seen in a frame. Hidden frame by frame, it is hidden in one span. */
export function withHiddenMark(edits: TakeEdits, mark: MarkName, frame: number): TakeEdits {
  const next = edits.records.find(
    (one): one is HiddenMarkRecord =>
      one.kind === 'hidden-mark' && one.mark === mark && frame >= one.from - 1 && frame <= one.until,
  );
  const record = next
    ? { ...next, from: Math.min(next.from, frame), until: Math.max(next.until, frame + 1) }
    : HiddenMarkRecord.parse({ kind: 'hidden-mark', id: nanoid(10), mark, from: frame, until: frame + 1 });
  return withRecord(edits, record);
}
