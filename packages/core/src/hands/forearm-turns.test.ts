import { forearmTurns } from './forearm-turns';

const RATE = 30;
const read = (turn: number): number => Math.atan2(Math.sin(turn), Math.cos(turn));
/** How far a forearm turns in each frame, and the fastest that it goes from one to the next, radians. */
function turned(frames: number, turn: (frame: number) => number): { turns: Float32Array; fastest: number } {
  const turns = forearmTurns(
    Array.from({ length: frames }, (_, frame) => read(turn(frame))),
    RATE,
  );
  return { turns, fastest: Math.max(...Array.from(turns.subarray(1), (value, i) => Math.abs(value - turns[i]))) };
}

describe('how far a forearm turns with its hand', () => {
  it('is half of what the hand turns', () => {
    const { turns } = turned(60, (frame) => 1.2 * Math.sin(frame / 15));
    for (let frame = 10; frame < 50; frame++) expect(turns[frame]).toBeCloseTo(0.6 * Math.sin(frame / 15), 1);
  });

  it('goes on where the hand turns on over the back, and comes back with it', () => {
    const { turns, fastest } = turned(40, (frame) => 1 + 2.5 * Math.sin((frame / 40) * Math.PI));
    expect(turns[20]).toBeCloseTo(1.7, 1);
    expect(fastest).toBeLessThan(0.15);
  });

  it('is calm where it is read now at one end, now at the other', () => {
    const { turns, fastest } = turned(60, (frame) => Math.PI + (frame % 2 ? 0.1 : -0.1));
    expect(Math.abs(turns[30])).toBeCloseTo(Math.PI / 2, 1);
    expect(fastest).toBeLessThan(0.1);
  });

  it('comes round to the easier side where the hand stays, in its time', () => {
    const { turns, fastest } = turned(150, (frame) => Math.min(frame * 0.1, 4.4));
    expect(turns[140]).toBeCloseTo((4.4 - 2 * Math.PI) / 2, 1);
    expect(turns[0]).toBeCloseTo(0, 1);
    expect(fastest).toBeLessThan(0.6);
  });

  it('is nothing of nothing', () => {
    expect(forearmTurns([], RATE)).toHaveLength(0);
    expect(forearmTurns([0.4], RATE)[0]).toBeCloseTo(0.2, 5);
  });
});
