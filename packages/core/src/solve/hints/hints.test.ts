import { emptyBodyObservations, MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';
import { hintedDepths, hintsWithin, withHints, type DepthHint } from './depth-hints';
import { withToldMarks } from './told-marks';

const RATE = 30;
/** Somebody who stands still with the left wrist at a place, metres from the hips, that changes with time. */
function still(frames: number, wrist: (frame: number) => readonly number[]): BodyObservations {
  const seen = emptyBodyObservations(frames, RATE, 640, 480);
  seen.presence.fill(1);
  seen.marks.fill(0);
  seen.world.fill(0);
  const put = (frame: number, mark: MarkName, x: number, y: number, z: number): void => {
    const at = (frame * MARK_COUNT + MARK[mark]) * 3;
    seen.marks.set([320 + x * 200, 240 - y * 200, 0.9], at);
    seen.world.set([x, y, z], at);
  };
  for (let frame = 0; frame < frames; frame++) {
    for (const side of ['left', 'right'] as const) {
      const s = side === 'left' ? 1 : -1;
      put(frame, `${side}Shoulder`, 0.18 * s, 0.5, 0);
      put(frame, `${side}Hip`, 0.1 * s, 0, 0);
    }
    const [x, y, z] = wrist(frame);
    put(frame, 'leftWrist', x, y, z);
  }
  return seen;
}

const z = ({ world }: BodyObservations, frame: number, mark: MarkName): number =>
  world[(frame * MARK_COUNT + MARK[mark]) * 3 + 2];
const hint = (frame: number, nearer: number): DepthHint => ({ mark: 'leftWrist', frame, nearer });

describe('depths that a person tells', () => {
  it('count whole where they were given, and fade with time', () => {
    const seen = still(60, () => [0.3, 0.2, 0.05]);
    const told = hintedDepths(seen, [hint(30, 0.25)], 1);
    expect(told[30]).toEqual([{ mark: 'leftWrist', nearer: expect.closeTo(0.25, 5), weight: 1 }]);
    expect(told[36][0].weight).toBeLessThan(1);
    expect(told[36][0].weight).toBeGreaterThan(told[42][0].weight);
    expect(told[42][0].nearer).toBeCloseTo(0.25, 5);
    expect(told[0]).toEqual([]);
  });

  it('are forgotten while the pose is another one', () => {
    const seen = still(60, (frame) => (frame < 32 ? [0.3, 0.2, 0.05] : [0.3, 0.8, 0.05]));
    const told = hintedDepths(seen, [hint(30, 0.25)], 1);
    expect(told[31]).toHaveLength(1);
    expect(told[33]).toEqual([]);
  });

  it('say how wrong the network is: what it sees change changes on', () => {
    const seen = still(40, (frame) => [0.3, 0.2, 0.05 + frame * 0.002]);
    const told = hintedDepths(seen, [hint(20, z(seen, 20, 'leftWrist') + 0.1)], 1);
    expect(told[24][0].nearer).toBeCloseTo(z(seen, 24, 'leftWrist') + 0.1, 5);
    const moved = withHints(seen, told, 1);
    expect(z(moved, 20, 'leftWrist')).toBeCloseTo(z(seen, 20, 'leftWrist') + 0.1, 5);
    expect(z(moved, 20, 'leftHip')).toBe(z(seen, 20, 'leftHip'));
  });

  it('carry along what hangs on a joint, unless it has a hint of its own', () => {
    const seen = still(10, () => [0.3, 0.2, 0.05]);
    const elbow = { mark: 'leftElbow' as const, nearer: 0.3, weight: 1 };
    const lists = (own: boolean) =>
      Array.from({ length: 10 }, (_, f) =>
        f === 5 ? [elbow, ...(own ? [{ mark: 'leftWrist' as const, nearer: 0.1, weight: 1 }] : [])] : [],
      );
    expect(z(withHints(seen, lists(false), 1), 5, 'leftWrist')).toBeCloseTo(0.35, 5);
    expect(z(withHints(seen, lists(true), 1), 5, 'leftWrist')).toBeCloseTo(0.1, 5);
  });

  it('carry along once what hangs on two that are told: with the nearer one', () => {
    const seen = still(10, () => [0.3, 0.2, 0.05]);
    const told = Array.from({ length: 10 }, () => [
      { mark: 'leftShoulder' as const, nearer: 0.1, weight: 1 },
      { mark: 'leftElbow' as const, nearer: 0.3, weight: 1 },
    ]);
    expect(z(withHints(seen, told, 1), 5, 'leftWrist')).toBeCloseTo(0.35, 5);
    expect(
      z(
        withHints(
          seen,
          told.map(([shoulder]) => [shoulder]),
          1,
        ),
        5,
        'leftWrist',
      ),
    ).toBeCloseTo(0.15, 5);
  });

  it('are counted within a shot', () => {
    expect(hintsWithin([hint(5, 0), hint(25, 1), hint(40, 2)], 20, 40)).toEqual([hint(5, 1)]);
  });
});

describe('marks that a person tells', () => {
  const seen = still(60, (frame) => [0.3 + frame * 0.001, 0.2, 0.05]);
  const x = (observations: BodyObservations, frame: number): number =>
    observations.marks[(frame * MARK_COUNT + MARK.leftWrist) * 3];
  const move = (frame: number, by: number) => ({
    mark: 'leftWrist' as const,
    frame,
    x: x(seen, frame) + by,
    y: 240 - 40,
  });

  it('lie where they were put, for a frame and a little around', () => {
    const told = withToldMarks(seen, { moved: [move(30, 20)], hidden: [] });
    expect(x(told, 30)).toBeCloseTo(x(seen, 30) + 20, 3);
    expect(x(told, 31)).toBeLessThan(x(told, 30));
    expect(x(told, 40)).toBe(x(seen, 40));
    expect(told.marks[(30 * MARK_COUNT + MARK.leftWrist) * 3 + 2]).toBe(1);
    // The network's point goes along across the view: 200 pixels are a metre here.
    const across = ({ world }: BodyObservations): number => world[(30 * MARK_COUNT + MARK.leftWrist) * 3];
    expect(across(told) - across(seen)).toBeCloseTo(0.1, 1);
  });

  it('have the way between two of them filled in', () => {
    const told = withToldMarks(seen, { moved: [move(20, 10), move(40, 30)], hidden: [] });
    for (const [frame, by] of [[20, 10], [30, 20], [40, 30]]) expect(x(told, frame) - x(seen, frame)).toBeCloseTo(by, 3); // prettier-ignore
    const far = withToldMarks(seen, { moved: [move(5, 10), move(55, 30)], hidden: [] });
    expect(x(far, 30)).toBe(x(seen, 30));
  });

  it('are not believed where they are hidden', () => {
    const told = withToldMarks(seen, { moved: [], hidden: [{ mark: 'leftWrist', from: 10, until: 20 }] });
    const visible = (frame: number): number => told.marks[(frame * MARK_COUNT + MARK.leftWrist) * 3 + 2];
    expect([visible(9), visible(10), visible(19), visible(20)].map((value) => value > 0)).toEqual([
      true,
      false,
      false,
      true,
    ]);
    expect(withToldMarks(seen, { moved: [], hidden: [] })).toBe(seen);
  });
});
