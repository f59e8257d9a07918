import { between } from '../judge';
import { stretchJudge } from '../stretch-judge';

/** Brightness of the performer that is enough, and that in which nothing is told apart. */
const ENOUGH = 45;
const NIGHT = 15;
/** A performer darker than this part of the picture stands against the light. */
const AGAINST = 0.4;

/** A performer in the dark. */
export const light = stretchJudge({
  kind: 'light',
  title: 'Light',
  column: 'bodyLight',
  chart: { title: 'Brightness of the performer', unit: 'of 255' },
  weight: 0.6,
  badness: ({ bodyLight }) => bodyLight.map((value) => between(value, ENOUGH, NIGHT)),
  says: (value, when, { light: whole }) => {
    const around = whole.reduce<number>((sum, level) => sum + (level ?? 0), 0) / Math.max(1, whole.length);
    return value < AGAINST * around
      ? `The performer is dark against a bright background ${when}.`
      : `It is dark ${when}: the performer's brightness is ${Math.round(value)} of 255.`;
  },
  advice: 'Bring more light onto the performer, from the side of the camera.',
});
