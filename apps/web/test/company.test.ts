import { TakeSettings, type TakeView } from '@merry-shadow/contracts/take';
import { companionsOf } from '../src/look/company';

jest.mock('vue', () => ({ ...jest.requireActual<object>('vue'), onUnmounted: () => undefined }));

const PERFORMERS = [
  { id: 'keeper', name: 'The keeper', height: 1.78, colour: '#b4432f' },
  { id: 'apprentice', name: 'The apprentice', height: 1.68, colour: '#c99a1e' },
];
const take = (
  id: string,
  performedBy: string | null,
  [fromFrame, untilFrame]: [number, number],
  settings: Partial<TakeSettings> = {},
): TakeView =>
  ({
    id,
    name: `Take ${id}`,
    revision: 1,
    settings: { ...TakeSettings.parse({}), performedBy, ...settings },
    captured: { runId: `run ${id}`, fromFrame, untilFrame },
  }) as TakeView;

describe('who else stands on the stage', () => {
  const own = take('own', 'keeper', [0, 90]);

  it('are those captured in just the same frames, by their name and colour', () => {
    const takes = [
      own,
      take('a', 'apprentice', [0, 90]),
      take('b', null, [0, 90]),
      take('c', 'apprentice', [0, 60]),
      { ...take('d', 'apprentice', [0, 90]), captured: null },
    ];
    expect(companionsOf(own, takes, PERFORMERS)).toMatchObject([
      { take: { id: 'a' }, name: 'The apprentice', colour: '#c99a1e' },
      { take: { id: 'b' }, name: 'Take b', colour: null },
    ]);
    expect(companionsOf({ ...own, captured: null }, takes, PERFORMERS)).toEqual([]);
  });

  it('are not the same performer again, nor somebody in another time', () => {
    const takes = [take('again', 'keeper', [0, 90]), take('slow', 'apprentice', [0, 90], { slowMotion: 2 })];
    expect(companionsOf(own, takes, PERFORMERS)).toEqual([]);
  });

  it('are made anew when their work, their tracking or the scale that all share changes', () => {
    const other = take('a', 'apprentice', [0, 90]);
    const madeFrom = (one: TakeView, two: TakeView): string => companionsOf(one, [two], PERFORMERS)[0].madeFrom;
    const before = madeFrom(own, other);
    expect(madeFrom(own, { ...other })).toBe(before);
    expect(madeFrom(own, { ...other, revision: 2 })).not.toBe(before);
    expect(madeFrom({ ...own, settings: { ...own.settings, height: 1.8 } }, other)).not.toBe(before);
  });
});
