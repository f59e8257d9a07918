import type { Judge } from '../judge';

/** No T- or A-pose, which tells the body's proportions best. */
export const pose: Judge = {
  kind: 'pose',
  title: 'T- or A-pose',
  // One pose is enough: where it is missing all through, all of the clip lacks it.
  badness: (looks) => looks.pose.map(() => (pose.find(looks).length > 0 ? 0.3 : 0)),
  find: (looks) => {
    const seen = looks.tall.filter((tall) => tall !== null).length;
    if (seen === 0 || looks.pose.some((value) => (value ?? 0) > 0)) return [];
    return [
      {
        kind: 'pose',
        severity: 0.12,
        from: 0,
        until: looks.frames,
        says: 'No T- or A-pose was seen.',
        advice: 'Hold one for a second at the start: it tells the proportions of the body best.',
      },
    ];
  },
};
