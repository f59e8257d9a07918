import { between } from '../judge';
import { stretchJudge } from '../stretch-judge';

/** Clothes that look like what is behind them. */
export const contrast = stretchJudge({
  kind: 'contrast',
  title: 'Stands out from what is behind',
  column: 'contrast',
  chart: { title: 'Contrast to what is behind', unit: 'ΔE' },
  weight: 0.5,
  badness: (looks) => looks.contrast.map((value) => between(value, 32, 14)),
  says: (_, when) => `Arms and legs hardly stand out from what is behind them ${when}.`,
  advice: 'Wear clothes of another colour or brightness than the wall, or stand before something else.',
});
