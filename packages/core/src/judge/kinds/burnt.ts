import { between } from '../judge';
import { stretchJudge } from '../stretch-judge';

/** A performer who is burnt out to white. */
export const burnt = stretchJudge({
  kind: 'burnt',
  title: 'Not overexposed',
  column: 'burnt',
  chart: { title: 'Burnt out', unit: '%', factor: 100 },
  weight: 0.4,
  badness: (looks) => looks.burnt.map((share) => between(share, 0.05, 0.25)),
  says: (share, when) => `${Math.round(100 * share)} % of the performer are burnt out to white ${when}.`,
  advice: 'Lower the exposure, or turn away from lamp and window.',
});
