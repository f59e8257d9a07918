import { between } from '../judge';
import { stretchJudge } from '../stretch-judge';

/** Width of edges against the body's height: sharp, and so soft that fingers and faces are gone. */
const SHARP = 0.006;
const SOFT = 0.018;

/** A performer out of focus, or smeared by a slow shutter. */
export const blur = stretchJudge({
  kind: 'blur',
  title: 'Sharpness',
  column: 'blur',
  chart: { title: "Width of edges, of the performer's height", unit: '%', factor: 100 },
  weight: 0.5,
  badness: (looks) => looks.blur.map((width) => between(width, SHARP, SOFT)),
  says: (_, when) => `The performer is blurred ${when}.`,
  advice: 'Clean the lens, set the focus on the performer, and bring more light, so that the shutter is fast.',
});
