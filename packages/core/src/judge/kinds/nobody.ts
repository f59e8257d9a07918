import { badStretches, severityOf, whenWords, type Judge } from '../judge';

/** Stretches in which nobody is seen. */
export const nobody: Judge = {
  kind: 'nobody',
  title: 'Somebody in the picture',
  badness: ({ people, tall }) => people.map((count, i) => ((count ?? 0) > 0 || tall[i] !== null ? 0 : 1)),
  find: (looks) =>
    badStretches(looks, nobody.badness(looks), 1).map((stretch) => ({
      kind: 'nobody',
      severity: severityOf(stretch, stretch.share > 0.9 ? 1 : 0.5),
      from: stretch.from,
      until: stretch.until,
      says: `Nobody is seen ${whenWords(stretch, looks)}.`,
      advice:
        stretch.share > 0.9
          ? 'Film somebody whole, head to feet, in good light.'
          : 'Set the in and out points of the take round the part with the performer.',
    })),
};
