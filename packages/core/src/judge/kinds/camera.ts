import { between } from '../judge';
import { stretchJudge } from '../stretch-judge';

/** A camera that does not stand still. */
export const camera = stretchJudge({
  kind: 'camera',
  title: 'Camera stands still',
  column: 'camera',
  chart: { title: 'Camera movement, of the long side in a second', unit: '%', factor: 100 },
  weight: 0.4,
  badness: (looks) => looks.camera.map((value) => between(value, 0.002, 0.03)),
  says: (value, when) => `The camera moves ${when}, by ${(100 * value).toFixed(1)} % of the picture in a second.`,
  advice: 'Put it on a tripod or a shelf. What it moves is taken out as well as the background tells it.',
});
