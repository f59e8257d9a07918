import { between } from '../judge';
import { stretchJudge } from '../stretch-judge';

/** A picture of blocks. */
export const compression = stretchJudge({
  kind: 'compression',
  title: 'Compression',
  column: 'blocks',
  chart: { title: 'Steps at the edges of blocks', unit: '%', factor: 100 },
  weight: 0.4,
  badness: (looks) => looks.blocks.map((value) => between(value, 0.12, 0.5)),
  says: (_, when) => `The picture is strongly compressed ${when}: blocks are seen.`,
  advice: "Use the camera's own file, not one that was sent by a messenger or taken from a page.",
});
