import { crossings } from '../passes/keep-apart';
import { PassStep } from '../passes/run-passes';
import { runsWhere } from '../signal/runs';
import { type Snag, type SnagDetector } from './snag';

/** Half the width of a slender trunk, metres: what is nearer to its middle is surely inside. */
const GIRTH = 0.1;
const DEEP = 0.02;

/** Forearms that run through the trunk. */
export const crossing: SnagDetector = {
  kind: 'crossing',
  title: 'Arm through the body',
  find({ motion }) {
    const found = crossings(motion, GIRTH);
    return (['left', 'right'] as const).flatMap((side): Snag[] =>
      runsWhere(motion.frames, (f) => found[side][f * 4 + 3] > DEEP, 2).map(([from, until]) => {
        let deepest = 0;
        for (let f = from; f < until; f++) deepest = Math.max(deepest, found[side][f * 4 + 3]);
        const mends = [5, 12].map((ease) => ({
          pass: PassStep.parse({ pass: 'keep-apart', range: [from, until], parts: [`${side}Arm`], ease }),
        }));
        return {
          kind: 'crossing',
          joint: `${side}LowerArm`,
          from,
          until,
          severity: deepest * 100,
          unit: 'cm',
          mends,
        };
      }),
    );
  },
};
