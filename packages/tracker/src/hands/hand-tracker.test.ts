import { MARK, MARK_COUNT } from '@merry-shadow/core/observe/body';
import type { Picture } from '../picture/picture';
import type { HandNets, Net } from '../runtime/net';
import { regionToPicture } from '../picture/picture';
import { croppedRegion } from './hand-crop';
import { HandTracker } from './hand-tracker';
import { handRegionFromBody, handRegionFromRecrop } from './hand-region';

/** The rules of following a hand, on networks that are played. */
const picture: Picture = { width: 400, height: 300, data: new Uint8Array(400 * 300 * 3).fill(80) };

/** A body's marks with a left hand at a place, its fingers up. */
function bodyAt(x: number, y: number): Float32Array {
  const marks = new Float32Array(MARK_COUNT * 3).fill(0.9);
  marks.set([x, y, 0.9], MARK.leftWrist * 3);
  marks.set([x - 8, y - 30, 0.9], MARK.leftPinky * 3);
  marks.set([x + 8, y - 32, 0.9], MARK.leftIndex * 3);
  return marks;
}

/** Middle of the better region and the point below it, pixels of the network's input. */
const PROPOSAL = Float32Array.of(128, 128, 128, 216);

/** Where the body's wrist lies in the region that is proposed. */
function wristInRegion(): [number, number] {
  const region = handRegionFromRecrop(PROPOSAL, handRegionFromBody(bodyAt(200, 150), 'left'));
  return [(200 - region.x) / region.size + 0.5, (150 - region.y) / region.size + 0.5];
}

interface Played {
  nets: HandNets;
  recrops: () => number;
}

/** A hand network that sees the wrist where the body has it, the knuckles above. */
function played(presence: () => number, wristAt: () => [number, number] = wristInRegion): Played {
  let recrops = 0;
  const handMarks: Net = {
    planar: true,
    run: async () => {
      const values = new Float32Array(63);
      for (let i = 0; i < 21; i++) values.set([0.5 * 224, 0.35 * 224, 0], i * 3);
      const [u, v] = wristAt();
      values.set([u * 224, v * 224, 0], 0);
      const world = new Float32Array(63);
      world.set([0.01, 0.08, -0.02], 0);
      return [values, Float32Array.of(presence()), world];
    },
    close: async () => undefined,
  };
  const handRecrop: Net = {
    planar: true,
    run: async () => (recrops++, [PROPOSAL]),
    close: async () => undefined,
  };
  return { nets: { handMarks, handRecrop }, recrops: () => recrops };
}

describe('following a hand', () => {
  it('proposes a region anew only now and then while the hand is held', async () => {
    const { nets, recrops } = played(() => 0.95);
    const region = handRegionFromBody(bodyAt(200, 150), 'left');
    expect(region.size).toBeGreaterThan(40);
    const tracker = new HandTracker(nets, 'left');
    const seen = [];
    for (let f = 0; f < 8; f++) seen.push(await tracker.next(picture, bodyAt(200, 150)));
    if (seen[0] === null) throw new Error('The hand was not seen.');
    expect(seen.every((hand) => hand !== null)).toBe(true);
    expect(recrops()).toBeLessThan(5);
    expect(seen[0].marks).toHaveLength(42);
    expect(seen[0].presence).toBeCloseTo(0.95, 5);
  });

  it('asks for the region in every frame where the exact rule is wanted', async () => {
    const { nets, recrops } = played(() => 0.95);
    const tracker = new HandTracker(nets, 'left', { plain: true });
    for (let f = 0; f < 5; f++) await tracker.next(picture, bodyAt(200, 150));
    expect(recrops()).toBe(5);
  });

  it('takes the mean of a hand and its mirror image where precision counts', async () => {
    // This network sees a wrist left of its place, in a mirror as well: right of it there.
    const { nets } = played(
      () => 0.95,
      () => [wristInRegion()[0] - 0.1, wristInRegion()[1]],
    );
    const [plain, fine] = [new HandTracker(nets, 'left'), new HandTracker(nets, 'left', { fine: true })];
    const [once, twice] = [await plain.next(picture, bodyAt(200, 150)), await fine.next(picture, bodyAt(200, 150))];
    if (!once || !twice) throw new Error('The hand was not seen.');
    expect(once.marks[0]).toBeLessThan(195);
    expect(twice.marks[0]).toBeCloseTo(200, 0);
    // What lies to a side goes, what lies along the hand and in depth stays.
    expect(Math.hypot(...once.world.subarray(0, 3))).toBeCloseTo(Math.hypot(0.01, 0.08, 0.02), 5);
    expect(Math.hypot(...twice.world.subarray(0, 3))).toBeCloseTo(Math.hypot(0.08, 0.02), 5);
  });

  it('reads the same places however a hand is cut out', async () => {
    const handCrop = { turn: 0.4, size: 1.5, mirrored: false };
    const region = handRegionFromRecrop(PROPOSAL, handRegionFromBody(bodyAt(200, 150), 'left'));
    const square = croppedRegion(region, handCrop);
    expect([square.size, square.angle]).toEqual([region.size * 1.5, region.angle + 0.4]);
    const seen = await new HandTracker(played(() => 0.95).nets, 'left', { handCrop }).next(picture, bodyAt(200, 150));
    const [u, v] = wristInRegion();
    expect([...(seen?.marks.subarray(0, 2) ?? [])]).toEqual(regionToPicture(square, u, v).map(Math.fround));
  });

  it('leaves a gap where no hand is, where it lies outside, and where it is too small', async () => {
    expect(await new HandTracker(played(() => 0.3).nets, 'left').next(picture, bodyAt(200, 150))).toBeNull();
    const { nets } = played(() => 0.95);
    expect(await new HandTracker(nets, 'left').next(picture, bodyAt(-90, 150))).toBeNull();
    const tiny = bodyAt(200, 150);
    for (const name of ['leftPinky', 'leftIndex'] as const) tiny.set([200, 149.5, 0.9], MARK[name] * 3);
    expect(await new HandTracker(nets, 'left').next(picture, tiny)).toBeNull();
  });

  it("does not take another's hand: the wrist must lie at the body's wrist", async () => {
    const { nets } = played(
      () => 0.95,
      () => [2.4, -0.9],
    );
    expect(await new HandTracker(nets, 'left').next(picture, bodyAt(200, 150))).toBeNull();
  });
});
