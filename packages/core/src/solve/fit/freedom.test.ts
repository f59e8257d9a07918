import { freeAcross, freeAlong } from './freedom';

const agility = (across: number, along: number) => ({
  across: Float64Array.of(0, across),
  along: Float64Array.of(0, along),
});

describe('the freedom of accelerations', () => {
  it('is that of rest where nothing moves', () => {
    expect(freeAcross(agility(9, 9), 0, 0.5)).toBe(0.5);
    expect(freeAlong(agility(9, 9), 0, 0.4)).toBe(0.4);
  });

  it('grows across the view with what the picture shows, not with depth', () => {
    expect(freeAcross(agility(10, 0), 1, 0.5)).toBeGreaterThan(20);
    expect(freeAcross(agility(0, 10), 1, 0.5)).toBe(0.5);
  });

  it('grows along the view faster than the depth that the network tells, up to what arms can do', () => {
    const [slow, fast, wild, wilder] = [1, 2, 40, 80].map((along) => freeAlong(agility(0, along), 1, 0));
    expect(fast).toBeGreaterThan(2.5 * slow);
    expect(wilder).toBe(wild);
    expect(wild).toBeLessThan(310);
    expect(freeAlong(agility(10, 0), 1, 0)).toBeLessThan(freeAcross(agility(10, 0), 1, 0));
  });
});
