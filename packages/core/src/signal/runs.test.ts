import { runsWhere } from './runs';

describe('runs of frames', () => {
  it('are told from … until, and only those that last', () => {
    const flags = [1, 1, 0, 1, 0, 0, 1, 1, 1];
    expect(runsWhere(9, (f) => flags[f] === 1)).toEqual([
      [0, 2],
      [3, 4],
      [6, 9],
    ]);
    expect(runsWhere(9, (f) => flags[f] === 1, 3)).toEqual([[6, 9]]);
    expect(runsWhere(0, () => true)).toEqual([]);
  });
});
