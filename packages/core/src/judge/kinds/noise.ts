import { between } from '../judge';
import { stretchJudge } from '../stretch-judge';

/** Noise of a camera in the dark. */
export const noise = stretchJudge({
  kind: 'noise',
  title: 'Noise',
  column: 'noise',
  chart: { title: 'Noise', unit: 'grey levels' },
  weight: 0.4,
  badness: (looks) => looks.noise.map((value) => between(value, 3, 9)),
  says: (value, when) => `The picture is noisy ${when}: ${value.toFixed(0)} grey levels.`,
  advice: 'Bring more light, so that the camera need not amplify so much.',
});
