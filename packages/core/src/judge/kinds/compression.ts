import { between, ofWhole, type Judge } from '../judge';

/** Bits a pixel of H.264 that show no blocks in footage of people, and so few that details are gone. */
const ENOUGH = 0.009;
const TOO_FEW = 0.003;

/** A file that was compressed so strongly that details are gone. */
export const compression: Judge = {
  kind: 'compression',
  title: 'Compression',
  badness: (looks) => looks.at.map(() => between(looks.bitsPerPixel, ENOUGH, TOO_FEW)),
  find: (looks) => {
    const badness = between(looks.bitsPerPixel, ENOUGH, TOO_FEW) ?? 0;
    if (badness < 0.3) return [];
    const says = 'The file is strongly compressed: fingers and faces may be smeared.';
    const advice = "Use the camera's own file, not one that was sent by a messenger or taken from a page.";
    return [ofWhole('compression', looks, 0.15 + 0.3 * badness, says, advice)];
  },
};
