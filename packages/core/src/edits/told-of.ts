import type { DepthHint } from '../solve/hints/depth-hints';
import type { ToldMarks } from '../solve/hints/told-marks';
import { recordsInUse } from './registry';
import type { TakeEdits } from './take-edits';

/** What edits say to the solve: marks and depths, in the frames that the edits count. */
export interface Told {
  marks: ToldMarks;
  hints: DepthHint[];
}

/** What a person told to the solve of a take. Records without their ids, so that equal ones are equal. */
export function toldOf({ records }: TakeEdits): Told {
  return {
    marks: {
      moved: recordsInUse(records, 'moved-mark').map(({ mark, frame, x, y }) => ({ mark, frame, x, y })),
      hidden: recordsInUse(records, 'hidden-mark').map(({ mark, from, until }) => ({ mark, from, until })),
      swapped: recordsInUse(records, 'swapped-sides').map(({ what, from, until }) => ({ what, from, until })),
    },
    hints: recordsInUse(records, 'depth-hint').map(({ mark, frame, nearer }) => ({ mark, frame, nearer })),
  };
}
