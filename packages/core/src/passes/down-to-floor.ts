import { z } from 'zod';
import { lowestSole } from '../ground/floor';
import { copyMotion, type Motion } from '../motion/motion';
import type { Pass } from './pass';

const Options = z.object({});

/** Lowers the whole body in each frame by as much as its lowest sole is over the floor. A jump would be taken out, too: range and parts say where. */
export const downToFloor: Pass<z.infer<typeof Options>> = {
  name: 'down-to-floor',
  title: 'Down to the floor',
  about: 'Lowers a body that hovers until a sole is on the floor, in each frame of its range. Leave jumps out of it.',
  options: Options,
  reach: () => 0,
  apply(motion: Motion): Motion {
    const low = lowestSole(motion);
    const out = copyMotion(motion);
    for (let frame = 0; frame < motion.frames; frame++)
      if (low[frame] > 0 && Number.isFinite(low[frame])) out.root[frame * 3 + 1] -= low[frame];
    return out;
  },
};
