import { badStretches, severityOf, whenWords, type Judge } from '../judge';

/** Several people: whom to follow must be said. */
export const people: Judge = {
  kind: 'people',
  title: 'One person',
  chart: { column: 'people', title: 'People in the picture', unit: '' },
  badness: (looks) => looks.people.map((count) => (count === null ? null : count > 1 ? 0.6 : 0)),
  find: (looks) =>
    badStretches(looks, people.badness(looks)).map((stretch) => ({
      kind: 'people',
      severity: severityOf(stretch, 0.45),
      from: stretch.from,
      until: stretch.until,
      says: `${peopleWords(Math.max(...looks.people.slice(stretch.first, stretch.last + 1).map((count) => count ?? 0)))} are in the picture ${whenWords(stretch, looks)}.`,
      advice: 'Choose the performer in the picture before tracking; make a take for each one who is wanted.',
    })),
};

const peopleWords = (count: number): string =>
  ['Nobody', 'One person', 'Two people', 'Three people'][count] ?? `${count} people`;
