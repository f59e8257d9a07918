import { emptyBodyObservations, MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';
import { hintedDepths, hintsWithin, withHints, type DepthHint, type HintedDepth } from './depth-hints';
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

const BODY = { scale: 1, height: 1.75 };
const told = (list: readonly HintedDepth[], mark: MarkName): HintedDepth => {
  const found = list.find((one) => one.mark === mark);
  if (!found) throw new Error(`nothing is told of ${mark}`);
  return found;
};

describe('depths that a person tells', () => {
  it('count whole where they were given, and fade with time', () => {
    const seen = still(120, () => [0.3, 0.2, 0.05]);
    const lists = hintedDepths(seen, [hint(60, 0.25)], BODY);
    const wrist = (frame: number): HintedDepth => told(lists[frame], 'leftWrist');
    expect(wrist(60).nearer).toBeCloseTo(0.25, 2);
    expect(wrist(60).told).toBeGreaterThan(0.95);
    for (const [near, far] of [[60, 66], [66, 80], [80, 110]]) expect(wrist(near).told).toBeGreaterThan(wrist(far).told); // prettier-ignore
    expect(wrist(110).told).toBeLessThan(0.2);
    expect(wrist(66).nearer).toBeGreaterThan(wrist(110).nearer);
    expect(wrist(110).nearer).toBeGreaterThan(0.05);
  });

  it('are nearly forgotten while the pose is another one', () => {
    const seen = still(60, (frame) => (frame < 32 ? [0.3, 0.2, 0.05] : [0.3, 1.8, 0.05]));
    const lists = hintedDepths(seen, [hint(30, 0.25)], BODY);
    expect(told(lists[31], 'leftWrist').told).toBeGreaterThan(0.8);
    expect(told(lists[33], 'leftWrist').told).toBeLessThan(0.1);
  });

  it('say how wrong the network is: what it sees change changes on', () => {
    const seen = still(40, (frame) => [0.3, 0.2, 0.05 + frame * 0.002]);
    const lists = hintedDepths(seen, [hint(20, z(seen, 20, 'leftWrist') + 0.1)], BODY);
    const by = (frame: number): number => told(lists[frame], 'leftWrist').nearer - z(seen, frame, 'leftWrist');
    expect(by(20)).toBeCloseTo(0.1, 2);
    expect(by(22)).toBeCloseTo(by(18), 6);
    const moved = withHints(seen, lists, 1);
    expect(z(moved, 20, 'leftWrist')).toBeCloseTo(z(seen, 20, 'leftWrist') + 0.1, 2);
    expect(z(moved, 20, 'leftIndex') - z(seen, 20, 'leftIndex')).toBeCloseTo(by(20), 6);
    expect(z(moved, 20, 'leftHip')).toBe(z(seen, 20, 'leftHip'));
  });

  it('tell of what errs together: of the elbow much, of the other arm little; what is told of it too counts', () => {
    const seen = still(10, () => [0.3, 0.2, 0.05]);
    const [list] = hintedDepths(seen, [hint(0, 0.25)], BODY);
    expect(told(list, 'leftElbow').nearer - z(seen, 0, 'leftElbow')).toBeGreaterThan(0.05);
    expect(told(list, 'leftElbow').told).toBeGreaterThan(0.4);
    expect(told(list, 'rightWrist').told).toBeLessThan(0.1);
    const [both] = hintedDepths(seen, [hint(0, 0.25), { mark: 'leftElbow', frame: 0, nearer: 0 }], BODY);
    expect(told(both, 'leftElbow').nearer).toBeCloseTo(0, 1);
    expect(told(both, 'leftWrist').nearer).toBeCloseTo(0.25, 1);
  });

  it('leave alone what nobody told anything of', () => {
    const seen = still(5, () => [0.3, 0.2, 0.05]);
    expect(hintedDepths(seen, [hint(7, 0.2)], BODY).every((list) => list.length === 0)).toBe(true);
    seen.presence[2] = 0;
    expect(hintedDepths(seen, [hint(1, 0.2)], BODY)[2]).toEqual([]);
    expect(hintedDepths(seen, [hint(2, 0.2)], BODY)[1]).toEqual([]);
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
