import { ofWhole, type Judge } from '../judge';
import type { Looks } from '../looks';

/** Somebody is seen, and never in a pose. */
const isMissing = ({ tall, pose: poses }: Looks): boolean =>
  tall.some((pixels) => pixels !== null) && !poses.some((value) => (value ?? 0) > 0);

/** No T- or A-pose, which tells the body's proportions best. */
export const pose: Judge = {
  kind: 'pose',
  title: 'T- or A-pose',
  // One pose is enough: where it is missing all through, all of the clip lacks it.
  badness: (looks) => {
    const missing = isMissing(looks) ? 0.3 : 0;
    return looks.pose.map(() => missing);
  },
  find: (looks) =>
    isMissing(looks)
      ? [
          ofWhole(
            'pose',
            looks,
            0.12,
            'No T- or A-pose was seen.',
            'Hold one for a second at the start: it tells the proportions of the body best.',
          ),
        ]
      : [],
};
