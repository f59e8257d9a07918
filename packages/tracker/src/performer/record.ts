import { MARK_COUNT } from '@merry-shadow/core/observe/body';
import { FACE_MARK_COUNT } from '@merry-shadow/core/observe/face';
import { HAND_MARK_COUNT } from '@merry-shadow/core/observe/hands';
import type { Observations } from '@merry-shadow/core/observe/observations';
import type { PerformerFrame } from './performer-tracker';

/** Writes what was seen into one frame of the observations; what was not seen stays a gap. */
export function recordFrame(observations: Observations, frame: number, seen: PerformerFrame): void {
  if (seen.body) {
    observations.marks.set(seen.body.marks, frame * MARK_COUNT * 3);
    observations.world.set(seen.body.world, frame * MARK_COUNT * 3);
    observations.presence[frame] = seen.body.presence;
  }
  for (const side of ['left', 'right'] as const) {
    const hand = seen[`${side}Hand`];
    const columns = observations.hands?.[side];
    if (!hand || !columns) continue;
    columns.marks.set(hand.marks, frame * HAND_MARK_COUNT * 2);
    columns.world.set(hand.world, frame * HAND_MARK_COUNT * 3);
    columns.presence[frame] = hand.presence;
  }
  if (seen.face && observations.face) {
    observations.face.marks.set(seen.face.marks, frame * FACE_MARK_COUNT * 3);
    observations.face.turn.set(seen.face.turn, frame * 4);
    observations.face.presence[frame] = seen.face.presence;
  }
}
