import { badStretches, ofStretch, whenWords, type Judge } from '../judge';

/** Several people: whom to follow must be said. */
export const people: Judge = {
  kind: 'people',
  title: 'One person',
  chart: { column: 'people', title: 'People in the picture', unit: '' },
  badness: (looks) => looks.people.map((count) => (count === null ? null : count > 1 ? 0.6 : 0)),
  find: (looks) =>
    badStretches(looks, people.badness(looks)).map((stretch) => {
      const most = Math.max(...looks.people.slice(stretch.first, stretch.last + 1).map((count) => count ?? 0));
      return ofStretch(
        'people',
        stretch,
        0.45,
        `${peopleWords(most)} are in the picture ${whenWords(stretch, looks)}.`,
        'Choose the performer in the picture before tracking; make a take for each one who is wanted.',
      );
    }),
};

/** Two at least. */
const peopleWords = (count: number): string => ['Two people', 'Three people'][count - 2] ?? `${count} people`;
