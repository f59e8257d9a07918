import { CurveCourse, CurveKey } from '@merry-shadow/core/curves/curve';
import {
  dragHandle,
  insertKeys,
  isWithin,
  levelKeys,
  moveKeys,
  removeKeys,
  scaleKeys,
  shapeKeys,
  straightenKeys,
  type Channels,
} from '../src/curves/curve-edits';

const row = (...list: [number, number][]): CurveKey[] => list.map(([frame, value]) => CurveKey.parse({ frame, value }));
const channels: Channels = [row([0, 0], [10, 6], [20, 2], [30, 8]), row([5, 1]), []];
const plain = (list: Channels): number[][][] => list.map((keys) => keys.map(({ frame, value }) => [frame, value]));
const both = [
  { channel: 0, frame: 10 },
  { channel: 0, frame: 20 },
];

describe('keys of curves', () => {
  it('are moved by frames and value, stay within the take, and replace those they come to lie on', () => {
    const moved = moveKeys(channels, both, { frames: 9.6, value: 1 }, 40);
    expect(plain(moved.channels)[0]).toEqual([
      [0, 0],
      [20, 7],
      [30, 3],
    ]);
    expect(moved.chosen).toEqual([
      { channel: 0, frame: 20 },
      { channel: 0, frame: 30 },
    ]);
    expect(plain(moveKeys(channels, both, { frames: 500, value: 0 }, 40).channels)[0].at(-1)).toEqual([39, 2]);
    expect(plain(moveKeys(channels, both, { frames: -500, value: 0 }, 40).channels)[0]).toEqual([
      [0, 6],
      [10, 2],
      [30, 8],
    ]);
  });

  it('are scaled about a pivot, brought to one value, or onto the line of their neighbours', () => {
    expect(plain(scaleKeys(channels, both, 0.5, 4))[0]).toEqual([
      [0, 0],
      [10, 5],
      [20, 3],
      [30, 8],
    ]);
    expect(plain(levelKeys(channels, both))[0]).toEqual([
      [0, 0],
      [10, 4],
      [20, 4],
      [30, 8],
    ]);
    const line = plain(straightenKeys(channels, both))[0];
    expect(line[1][1]).toBeCloseTo(8 / 3, 9);
    expect(line[2][1]).toBeCloseTo(16 / 3, 9);
    expect(plain(straightenKeys(channels, [{ channel: 0, frame: 30 }]))[0][3]).toEqual([30, 2]);
  });

  it('are taken out and put in without a change of the curve where they are put in', () => {
    expect(plain(removeKeys(channels, both))).toEqual([
      [
        [0, 0],
        [30, 8],
      ],
      [[5, 1]],
      [],
    ]);
    const more = insertKeys(channels, [0, 2], 15, [0, 0, 7]);
    expect(more[0].find(({ frame }) => frame === 15)?.value).toBeCloseTo(new CurveCourse(channels[0]).at(15), 9);
    expect(plain(more)[2]).toEqual([[15, 7]]);
    expect(insertKeys(channels, [0], 10, [])[0]).toHaveLength(4);
  });

  it('keep their course when they become free, and have handles that turn together or alone', () => {
    const free = shapeKeys(channels, both, 'free');
    for (const frame of [4, 12, 15, 26])
      expect(new CurveCourse(free[0]).at(frame)).toBeCloseTo(new CurveCourse(channels[0]).at(frame), 6);
    const turned = dragHandle(free, both[0], 'after', [2, 4], false)[0][1];
    expect(turned.after).toEqual([2, 4]);
    expect((turned.before?.[1] ?? 0) / (turned.before?.[0] ?? 1)).toBeCloseTo(-2, 9);
    const broken = dragHandle(free, both[0], 'after', [-3, 4], true)[0][1];
    expect(broken).toMatchObject({ after: [0.01, 4], before: free[0][1].before });
    expect(shapeKeys(free, both, 'step')[0][1]).toEqual({ frame: 10, value: 6, shape: 'step' });
  });
});

it('a place lies within a line that is drawn round it', () => {
  const outline = [
    [0, 0],
    [10, 0],
    [10, 10],
    [5, 4],
    [0, 10],
  ] as const;
  expect([isWithin(2, 5, outline), isWithin(5, 3, outline), isWithin(5, 8, outline), isWithin(11, 2, outline)]).toEqual(
    [true, true, false, false],
  );
});
