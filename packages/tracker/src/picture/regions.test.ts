import { MARK } from '@merry-shadow/core/observe/body';
import { gridOf } from '../body/search';
import { LIPS } from '../face/face-parts';
import { partBox } from '../face/face-marker';
import { faceRegionFromBody, faceRegionFromMarks } from '../face/face-region';
import { handRegionFromBody, handRegionFromRecrop } from '../hands/hand-region';
import { regionToPicture } from './picture';
import { steadyRegion } from './steady';

/** Marks of a frame with some set: name → x, y. */
function marks(set: Partial<Record<keyof typeof MARK, [number, number]>>): Float32Array {
  const out = new Float32Array(33 * 3);
  for (const [name, place] of Object.entries(set))
    out.set([...(place as [number, number]), 0.9], MARK[name as keyof typeof MARK] * 3);
  return out;
}

describe('the region of a hand', () => {
  const body = marks({
    leftWrist: [100, 200],
    leftIndex: [124, 194],
    leftPinky: [124, 206],
    rightWrist: [300, 200],
    rightIndex: [294, 176],
    rightPinky: [306, 176],
  });

  it('lies round the root of the middle finger, its upper side towards the fingers', () => {
    const region = handRegionFromBody(body, 'left');
    expect(region.x).toBeGreaterThan(124);
    expect(region.y).toBeCloseTo(198, 0);
    expect(region.size).toBeGreaterThan(100);
    const [x] = regionToPicture(region, 0.5, 0);
    expect(x).toBeGreaterThan(region.x + 40);
  });

  it('turns with the hand', () => {
    const [up, right] = [handRegionFromBody(body, 'right'), handRegionFromBody(body, 'left')];
    expect(Math.abs(up.angle)).toBeLessThan(0.2);
    expect(Math.abs(right.angle - Math.PI / 2)).toBeLessThan(0.2);
  });

  it('is taken from the re-crop network with the arm below', () => {
    const first = { x: 100, y: 100, size: 256, angle: 0 };
    const region = handRegionFromRecrop([128, 128, 128, 188], first);
    expect(region).toMatchObject({ x: 100, y: 100, size: 120 });
    expect(region.angle).toBeCloseTo(0, 6);
    const turned = handRegionFromRecrop([128, 128, 188, 128], first);
    expect(Math.abs(turned.angle + Math.PI / 2)).toBeLessThan(1e-6);
  });
});

describe('the region of a face', () => {
  const face = (turn: number) => {
    const at = (x: number, y: number): [number, number] => [
      400 + x * Math.cos(turn) - y * Math.sin(turn),
      100 + x * Math.sin(turn) + y * Math.cos(turn),
    ];
    return marks({
      leftEye: at(12, -10),
      rightEye: at(-12, -10),
      mouthLeft: at(8, 16),
      mouthRight: at(-8, 16),
      leftEar: at(28, -4),
      rightEar: at(-28, -4),
      nose: at(0, 4),
    });
  };

  it.each([0, 0.5, -0.8])('is centred and turned by %d', (turn) => {
    const region = faceRegionFromBody(face(turn));
    expect(Math.hypot(region.x - 400, region.y - 100)).toBeLessThan(5);
    expect(region.angle).toBeCloseTo(turn, 4);
    expect(region.size).toBeGreaterThan(80);
  });

  it('is a square round all marks of a face that was seen', () => {
    const seen = new Float32Array(468 * 3);
    for (let i = 0; i < 468; i++) seen.set([200 + 30 * Math.cos(i), 150 + 40 * Math.sin(i), 0], i * 3);
    seen.set([180, 150, 0], 33 * 3);
    seen.set([220, 150, 0], 263 * 3);
    const region = faceRegionFromMarks(seen);
    expect(region.x).toBeCloseTo(200, 0);
    expect(region.y).toBeCloseTo(150, 0);
    expect(region.size).toBeCloseTo(120, 0);
    expect(region.angle).toBeCloseTo(0, 6);
  });

  it('has a box for the lips that is half as large again, each side for itself', () => {
    const mesh = new Float32Array(468 * 3);
    LIPS.indices.forEach((mark, i) => mesh.set([96 + 24 * Math.cos(i), 130 + 8 * Math.sin(i), 0], mark * 3));
    mesh.set([72, 130, 0], LIPS.from * 3);
    mesh.set([120, 130, 0], LIPS.to * 3);
    const box = partBox(LIPS, mesh);
    expect(box.width).toBeCloseTo((48 / 4) * 1.5, 0);
    expect(box.height).toBeCloseTo((16 / 4) * 1.5, 0);
    expect(box.left + box.width / 2).toBeCloseTo(96 / 4, 0);
  });
});

describe('steadying', () => {
  const before = { x: 100, y: 100, size: 80, angle: 3.1 };

  it('moves by its weight, and turns the short way round', () => {
    const next = steadyRegion(before, { x: 101, y: 100, size: 84, angle: -3.1 }, 0.25);
    expect(next.x).toBeCloseTo(100.25, 6);
    expect(next.size).toBeCloseTo(81, 6);
    expect(next.angle).toBeGreaterThan(3.1);
  });

  it('follows at once what moves far', () => {
    expect(steadyRegion(before, { ...before, x: 180 }, 0.1).x).toBe(180);
  });
});

describe('the search grid', () => {
  it.each([
    [960, 540, 0.5, 0, 6],
    // The short side is hardly longer: one row of squares is enough for it.
    [960, 540, 0.5, 0.13, 3],
    [640, 480, 0.5, 0.13, 6],
    [540, 960, 0.3, 0, 18],
    [300, 300, 1, 0, 1],
  ])('covers a picture of %d × %d with squares of %d, but for %d of one', (width, height, part, spare, count) => {
    const crops = gridOf({ width, height, data: new Uint8Array() }, part, spare);
    const edge = 1 + (spare / 2) * part * Math.max(width, height);
    for (const [x, y] of [
      [edge, edge],
      [width - edge, edge],
      [edge, height - edge],
      [width - edge, height - edge],
      [width / 2, height / 2],
    ]) {
      expect(crops.some((crop) => Math.abs(crop.x - x) <= crop.size / 2 && Math.abs(crop.y - y) <= crop.size / 2)).toBe(
        true,
      );
    }
    for (const crop of crops) expect(crop.size).toBe(Math.max(width, height) * part);
    expect(crops).toHaveLength(count);
  });
});
