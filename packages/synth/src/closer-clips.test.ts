import type { FaceShape } from '@merry-shadow/core/face/face-shapes';
import { HAND_SHAPE_NAMES } from '@merry-shadow/core/hands/hand-shapes';
import { FaceFeatures } from './choreography/script';
import { faceFields, MOUTH } from './face/face-fields';
import { performFace, strengthsAt } from './face/perform-face';
import { chance } from './population/chance';
import { drawFace, faceClip } from './population/face-clips';
import { HAND_DISTANCES, handClip, type HandDistance } from './population/hand-clips';
import { setStage } from './stage';

const fields = faceFields(FaceFeatures.parse({}));
const goes = (shape: FaceShape, x: number, y: number, z = 0.1): readonly number[] => fields[shape]?.([x, y, z]) ?? [];

describe('how shapes move a made-up face', () => {
  it('opens the jaw below the lips alone', () => {
    expect(goes('jawOpen', 0, -0.03)[1]).toBeLessThan(-0.01);
    expect(goes('jawOpen', 0, 0.05)[1]).toBeCloseTo(0, 9);
    expect(goes('jawOpen', 0, -0.03, -0.08)[1]).toBeCloseTo(0, 9);
  });

  it('pulls the corner of its own side', () => {
    const [x, y] = goes('mouthSmileLeft', MOUTH.half, MOUTH.y);
    expect(x).toBeGreaterThan(0.002);
    expect(y).toBeGreaterThan(0.002);
    expect(Math.hypot(...goes('mouthSmileLeft', -MOUTH.half, MOUTH.y))).toBeLessThan(0.001);
    expect(goes('mouthFrownLeft', MOUTH.half, MOUTH.y)[1]).toBeLessThan(-0.002);
  });

  it('is the same on both sides', () => {
    for (const shape of Object.keys(fields) as FaceShape[]) {
      if (!shape.endsWith('Left') || !/^(mouth|brow)[A-Z].*Left$/.test(shape) || shape === 'mouthLeft') continue;
      const other = shape.replace(/Left$/, 'Right') as FaceShape;
      for (const [x, y] of [
        [0.02, 0.005],
        [0.03, 0.09],
        [0.01, 0.02],
      ]) {
        // prettier-ignore
        const [a, b] = [goes(shape, x, y), goes(other, -x, y)];
        expect(b[0]).toBeCloseTo(-a[0], 9);
        expect(b[1]).toBeCloseTo(a[1], 9);
      }
    }
  });
});

describe('a made-up face', () => {
  it('does what its keys ask for, opens its mouth and blinks', () => {
    const { moves } = faceClip(3, 0).performers[0];
    const made = performFace({ ...moves, mouth: [{ at: 0, open: 0.5 }], blinks: [1] }, 50, 25);
    expect(made.jawOpen?.every((value) => value >= 0.5)).toBe(true);
    expect(made.eyeBlinkLeft?.[25]).toBe(1);
    expect(made.eyeBlinkLeft?.[35]).toBeLessThan(0.01);
    expect(strengthsAt({ face: made }, 25).eyeBlinkRight).toBe(1);
    for (const values of Object.values(made)) for (const value of values) expect(value >= 0 && value <= 1).toBe(true);
  });

  it('is unlike others, and itself again with the same seed', () => {
    expect(drawFace(chance(5))).toEqual(drawFace(chance(5)));
    expect(drawFace(chance(5))).not.toEqual(drawFace(chance(6)));
    expect(faceClip(3, 1)).toEqual(faceClip(3, 1));
    expect(faceClip(3, 1)).not.toEqual(faceClip(3, 2));
    expect(faceClip(3, 1)).not.toEqual(faceClip(4, 1));
  });

  it('looks about with both eyes, and the truth tells it', () => {
    const [{ face, gaze }] = setStage(faceClip(9, 1)).performances;
    expect(Object.keys(face).length).toBeGreaterThan(10);
    expect(Math.max(...gaze.across.map(Math.abs))).toBeGreaterThan(0.1);
    expect(Math.max(...gaze.up.map(Math.abs))).toBeGreaterThan(0.05);
  });
});

describe('made-up hands', () => {
  it.each(Object.keys(HAND_DISTANCES) as HandDistance[])('show many shapes on both sides: %s', (distance) => {
    const clip = handClip(9, 0, distance);
    expect(clip).toEqual(handClip(9, 0, distance));
    const { leftHand, rightHand } = clip.performers[0].moves;
    for (const keys of [leftHand, rightHand]) {
      const shapes = new Set(keys.map(({ shape }) => shape));
      expect(shapes.size).toBeGreaterThan(5);
      expect([...shapes].every((shape) => shape && HAND_SHAPE_NAMES.includes(shape))).toBe(true);
    }
    expect(leftHand).not.toEqual(rightHand);
  });

  it('bend their fingers each as they like where that is asked for, within what fingers can do', () => {
    const [{ moves }] = handClip(9, 1, 'near', 0.5).performers;
    const free = [...moves.leftHand, ...moves.rightHand].flatMap(({ angles }) => (angles ? [angles] : []));
    expect(free.length).toBeGreaterThan(10);
    expect(moves.leftHand.some(({ shape }) => shape)).toBe(true);
    for (const angles of free)
      for (let finger = 1; finger < 5; finger++) {
        const [first, second, third, spread] = angles.slice(finger * 4, finger * 4 + 4);
        expect(Math.min(first, second, third)).toBeGreaterThan(-10);
        expect(Math.max(first / 92, second / 112, third / 82)).toBeLessThan(1);
        expect(Math.abs(spread)).toBeLessThan(25);
      }
    expect(new Set(free.map(([thumb]) => thumb)).size).toBeGreaterThan(5);
  });

  it('are filmed from farther away the farther they are meant to be', () => {
    const away = (distance: HandDistance): number => Math.hypot(...handClip(9, 0, distance).camera.position);
    expect(away('near')).toBeLessThan(away('middle'));
    expect(away('middle')).toBeLessThan(away('far'));
  });
});
