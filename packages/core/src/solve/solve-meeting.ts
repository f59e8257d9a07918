import { metricScale } from './body/metric-scale';
import { measureBody, type MeasuredBody } from './body/proportions';
import type { ShotGround } from './floor/shot-ground';
import type { SeenShot } from './observe/observe-shot';
import { solveShot } from './solve-shot';
import type { ShotSolution, SolveOptions } from './solved';
import { atOneDepth, depthsOf, meetingHints } from './start/meeting-depths';
import { findMeetings, withHiddenHands } from './start/meeting-hands';

/** A shot as it was seen, with who else was seen in it and the floor that they tell together. */
export interface SharedShot {
  seen: SeenShot;
  /** Everybody else, with the height they are known to have. */
  others: (SeenShot & { height?: number })[];
  ground: ShotGround | null;
}

/**
 * Solves a shot. Where hands meet somebody else's, both are solved alone first: that tells where their hands are, and so at which depth they meet.
 * @throws SolveError when nobody was seen.
 */
export function solveMeeting(
  { seen, others, ground }: SharedShot,
  body: MeasuredBody,
  options: SolveOptions,
): ShotSolution {
  const { observations } = seen;
  const met = others.map((other) => other.observations);
  const near = options.fit === false ? [] : findMeetings(observations, met);
  const alone = solveShot(seen, body, ground, options);
  if (near.length === 0) return alone;
  const theirs = others.map((other, i) => {
    if (!near.some((meeting) => meeting.other === i)) return null;
    const height = other.height ?? ground?.heights[i + 1];
    const measured = measureBody(other.observations, height, undefined, metricScale(other.observations, other.focal));
    return depthsOf(solveShot(other, measured, ground, { ...options, hints: undefined, manner: undefined }));
  });
  const told = options.hints ?? [];
  const own = depthsOf(alone);
  const meetings = atOneDepth(near, own, theirs);
  const hints = meetingHints(meetings, own, theirs, observations.rate, told);
  if (hints.length === 0) return alone;
  return solveShot({ ...seen, observations: withHiddenHands(observations, met, meetings) }, body, ground, {
    ...options,
    hints: [...hints, ...told],
  });
}
