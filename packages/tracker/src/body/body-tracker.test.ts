import { MARK, MARK_COUNT } from '@merry-shadow/core/observe/body';
import type { Picture } from '../picture/picture';
import type { BodyNets, Net } from '../runtime/net';
import { BodyTracker } from './body-tracker';
import { BodyMarker, MARKS_SIZE } from './marks';

/** The rules of following a body, on networks that are played. */
const ALL = 39;
const MAP = 64;
const ANCHORS = 2254;

const picture = (shade = 90): Picture => ({ width: 320, height: 240, data: new Uint8Array(320 * 240 * 3).fill(shade) });

/** A mark network that sees every mark at a place of its input. */
function markNet(place: (mark: number, input: Float32Array) => [number, number], presence: () => number): Net {
  return {
    planar: true,
    run: async (input: Float32Array) => {
      const values = new Float32Array(ALL * 5);
      const world = new Float32Array(ALL * 3);
      for (let i = 0; i < ALL; i++) {
        const [u, v] = place(i, input);
        values.set([u * MARKS_SIZE, v * MARKS_SIZE, 0, 5, 5], i * 5);
        world.set([u - 0.5, v - 0.5, 0.1 * i], i * 3);
      }
      return [values, Float32Array.of(presence()), new Float32Array(ALL * MAP * MAP).fill(-30), world];
    },
    close: async () => undefined,
  };
}

/** A detector that finds one body whose hips are in the middle of an anchor's cell, or nobody. */
function detectorNet(score: () => number): { net: Net; asked: () => number } {
  let asked = 0;
  const net: Net = {
    planar: true,
    run: async () => {
      asked++;
      const values = new Float32Array(ANCHORS * 12);
      const logits = new Float32Array(ANCHORS).fill(-20);
      const anchor = (14 * 28 + 14) * 2;
      logits[anchor] = score();
      values.set([0, 0, 60, 60, 0, 0, 0, -50, 0, 0, 0, -20], anchor * 12);
      return [values, logits];
    },
    close: async () => undefined,
  };
  return { net, asked: () => asked };
}

/** Hips in the middle, the circle above them: the region stays where it is. */
const steady = (mark: number): [number, number] => (mark === 33 ? [0.5, 0.5] : mark === 34 ? [0.5, 0.1] : [0.4, 0.3]);

describe('following a body', () => {
  it('looks for it once, then keeps to its region', async () => {
    const detector = detectorNet(() => 4);
    const nets: BodyNets = { bodyDetector: detector.net, bodyMarks: markNet(steady, () => 0.9) };
    const tracker = new BodyTracker(nets, { plain: true });
    const first = await tracker.next(picture(), 1 / 30);
    const second = await tracker.next(picture(), 1 / 30);
    expect(first?.detection).toBeCloseTo(1 / (1 + Math.exp(-4)), 5);
    expect(second?.detection).toBeNull();
    expect(detector.asked()).toBe(1);
    expect(second?.region.size).toBeCloseTo(first?.region.size ?? 0, 3);
  });

  it('is lost below half presence, and looked for again in the next frame', async () => {
    const detector = detectorNet(() => 4);
    let presence = 0.9;
    const nets: BodyNets = { bodyDetector: detector.net, bodyMarks: markNet(steady, () => presence) };
    const tracker = new BodyTracker(nets, { plain: true });
    await tracker.next(picture(), 1 / 30);
    presence = 0.5;
    expect(await tracker.next(picture(), 1 / 30)).toBeNull();
    presence = 0.9;
    expect((await tracker.next(picture(), 1 / 30))?.detection).not.toBeNull();
    expect(detector.asked()).toBe(2);
  });

  it('starts anew after a hard cut', async () => {
    const detector = detectorNet(() => 4);
    const nets: BodyNets = { bodyDetector: detector.net, bodyMarks: markNet(steady, () => 0.9) };
    const tracker = new BodyTracker(nets, { quick: true });
    /** A place with something in it, of which every cut shows something else. */
    const place = (waves: number): Picture => {
      const shown = picture(90);
      const data = shown.data.map((_, i) => {
        const at = Math.floor(i / 3);
        const [x, y] = [(at % shown.width) / shown.width, Math.floor(at / shown.width) / shown.height];
        return 120 + 70 * Math.sin(x * 40 + waves * y * 9) * Math.cos(y * 30 * waves);
      });
      return { ...shown, data };
    };
    const [here, elsewhere] = [place(1), place(2.3)];
    for (let i = 0; i < 8; i++) await tracker.next(here, 1 / 30);
    const before = detector.asked();
    await tracker.next(here, 1 / 30);
    expect(detector.asked()).toBe(before);
    await tracker.next(elsewhere, 1 / 30);
    expect(detector.asked()).toBeGreaterThan(before);
  });

  it('says so when nobody is there', async () => {
    const detector = detectorNet(() => -9);
    const nets: BodyNets = { bodyDetector: detector.net, bodyMarks: markNet(steady, () => 0.9) };
    for (const options of [{ plain: true }, { quick: true }])
      expect(await new BodyTracker(nets, options).next(picture(), 1 / 30)).toBeNull();
  });
});

describe('the second look', () => {
  /** Sees the left wrist where the bright column of its input is, and errs by a twentieth to the right. */
  const erring = (input: Float32Array): number => {
    const row = input.subarray(0, MARKS_SIZE);
    return row.indexOf(Math.max(...row)) / MARKS_SIZE + 0.05;
  };
  const bright = ((): Picture => {
    const data = new Uint8Array(256 * 256 * 3).fill(10);
    for (let y = 0; y < 256; y++) data.fill(250, (y * 256 + 64) * 3, (y * 256 + 65) * 3);
    return { width: 256, height: 256, data };
  })();
  const region = { x: 128, y: 128, size: 256, angle: 0 };
  // Each look tells the wrist of the side that it takes for left: in the mirror, the right one.
  const net = markNet(
    (mark, input) => (mark >= MARK_COUNT ? steady(mark) : [erring(input), 0.5]),
    () => 0.9,
  );

  it('cancels what the network gets wrong to one side', async () => {
    const once = await new BodyMarker(net).read(bright, region);
    const twice = await new BodyMarker(net, true).read(bright, region);
    const x = ({ marks }: { marks: Float32Array }): number => marks[MARK.leftWrist * 3];
    expect(Math.abs(x(once) - 64.5)).toBeGreaterThan(10);
    expect(Math.abs(x(twice) - 64.5)).toBeLessThan(2);
  });

  it('gives each mark of the mirror image to the other side', async () => {
    const sided = markNet(
      (mark) => [mark === MARK.leftKnee ? 0.3 : mark === MARK.rightKnee ? 0.6 : 0.5, 0.5],
      () => 0.9,
    );
    const { marks, world } = await new BodyMarker(sided, true).read(bright, region);
    // Left: the mean of .3 and of the mirrored right knee, 1 − .6.
    expect(marks[MARK.leftKnee * 3]).toBeCloseTo(0.35 * 256, 3);
    expect(marks[MARK.rightKnee * 3]).toBeCloseTo(0.65 * 256, 3);
    expect(world[MARK.leftKnee * 3]).toBeCloseTo(-0.15, 5);
  });
});
