import { badStretches, ofStretch, whenWords, type Judge } from '../judge';

/** A stretch of so much of the clip is as good as all of it. */
const ALL = 0.9;

/** Stretches in which nobody is seen. */
export const nobody: Judge = {
  kind: 'nobody',
  title: 'Somebody in the picture',
  badness: ({ people, tall }) => people.map((count, i) => ((count ?? 0) > 0 || tall[i] !== null ? 0 : 1)),
  find: (looks) =>
    badStretches(looks, nobody.badness(looks), 1).map((stretch) =>
      ofStretch(
        'nobody',
        stretch,
        stretch.share > ALL ? 1 : 0.5,
        `Nobody is seen ${whenWords(stretch, looks)}.`,
        stretch.share > ALL
          ? 'Film somebody whole, head to feet, in good light.'
          : 'Set the in and out points of the take round the part with the performer.',
      ),
    ),
};
