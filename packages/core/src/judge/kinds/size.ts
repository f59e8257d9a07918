import { between } from '../judge';
import { stretchJudge } from '../stretch-judge';

/** Height of the body against the picture's long side: found safely from the first on, hardly at the second (measured with the detector). */
const FINE = 0.34;
const HARDLY = 0.18;

/** A performer who is small in the picture. */
export const size = stretchJudge({
  kind: 'size',
  title: 'Performer large enough',
  column: 'tall',
  chart: { title: 'Height of the performer', unit: 'px' },
  weight: 0.8,
  badness: ({ tall, width, height }) =>
    tall.map((pixels) => between(pixels === null ? null : pixels / Math.max(width, height), FINE, HARDLY)),
  says: (pixels, when, { width, height }) =>
    `The performer is only ${Math.round(pixels)} pixels tall ${when}, ${Math.round((100 * pixels) / Math.max(width, height))} % of the picture's long side.`,
  advice: 'Come nearer, or film in upright format, so that the body fills most of the picture.',
});
