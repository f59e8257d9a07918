import { takeTurn } from './turns';

/** Works through what waits on so many threads; each piece takes a turn of time. @returns in which order they began. */
function workThrough(pieces: string[], threads: number, later: Record<number, string[]> = {}): string {
  const waiting = [...pieces];
  const order: string[] = [];
  for (let time = 0; waiting.length > 0 || later[time]; time++) {
    const active: string[] = [];
    waiting.push(...(later[time] ?? []));
    while (active.length < threads && waiting.length > 0) {
      const piece = takeTurn(waiting, active, (item) => item);
      active.push(piece);
      order.push(piece);
    }
  }
  return order.join('');
}

describe('turns', () => {
  it('are taken in the order of coming where all belongs together', () => {
    const waiting = [1, 2, 3];
    expect([0, 0, 0].map(() => takeTurn(waiting, ['one', 'one'], () => 'one'))).toEqual([1, 2, 3]);
  });

  it('let a short take that comes later begin at once beside a long one', () => {
    expect(workThrough(Array(8).fill('L') as string[], 2, { 1: ['s', 's'] })).toBe('LLLsLsLLLL');
  });

  it('are shared between three on two threads', () => {
    expect(workThrough(['a', 'a', 'a', 'b', 'b', 'c'], 2)).toBe('ababac');
  });
});
