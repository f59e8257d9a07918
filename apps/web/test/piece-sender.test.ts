import { PieceSender } from '../src/record/piece-sender';

class Full extends Error {}

function sender(answers: (Error | null)[]) {
  const sent: [number, string][] = [];
  const refused: Error[] = [];
  const pieces = new PieceSender(
    {
      send: async (at, piece) => {
        const answer = answers.shift();
        if (answer) throw answer;
        sent.push([at, await piece.text()]);
      },
      wait: async () => undefined,
      refused: (error) => void refused.push(error),
    },
    (error) => error instanceof Full,
  );
  return { pieces, sent, refused };
}

it('sends each piece to its place, in order, and again when the server does not answer', async () => {
  const { pieces, sent } = sender([null, new Error('away'), new Error('away'), null]);
  for (const text of ['ab', 'c', '', 'def']) pieces.add(new Blob([text]));
  await pieces.settled();
  expect(sent).toEqual([
    [0, 'ab'],
    [2, 'c'],
    [3, 'def'],
  ]);
  expect(pieces.pending).toBe(0);
});

it('says when nothing more is taken, and sends nothing after that', async () => {
  const { pieces, sent, refused } = sender([null, new Full('full')]);
  for (const text of ['a', 'b', 'c']) pieces.add(new Blob([text]));
  await pieces.settled();
  pieces.add(new Blob(['d']));
  await pieces.settled();
  expect(sent).toEqual([[0, 'a']]);
  expect(refused).toHaveLength(1);
});
