import { emptyBodyObservations, isSeen, momentsOnly } from './body';
import { emptyObservations, observationColumns, sliceObservations } from './observations';

describe('pictures that show no moment of their own', () => {
  const seen = { ...emptyBodyObservations(4, 30, 64, 48), presence: new Float32Array(4).fill(0.9) };
  seen.marks.fill(1);

  it('show nobody, and the others what they showed', () => {
    const told = momentsOnly({ ...seen, skipped: Float32Array.of(0, 1, 0, 1) });
    expect([0, 1, 2, 3].map((frame) => isSeen(told, frame))).toEqual([true, false, true, false]);
    expect(told.marks).toBe(seen.marks);
    expect(seen.presence[1]).toBeCloseTo(0.9, 5);
  });

  it('are none where none is told', () => {
    expect(momentsOnly(seen)).toBe(seen);
    const none = { ...seen, skipped: new Float32Array(4) };
    expect(momentsOnly(none)).toBe(none);
  });

  it('are stored, cut and joined like all else that was seen', () => {
    const whole = emptyObservations(6, 30, 64, 48, { hands: false, face: false });
    whole.skipped[4] = 1;
    expect(observationColumns(whole).find(({ name }) => name === 'skipped')).toMatchObject({ width: 1 });
    expect(Array.from(sliceObservations(whole, 3, 6).skipped)).toEqual([0, 1, 0]);
  });
});
