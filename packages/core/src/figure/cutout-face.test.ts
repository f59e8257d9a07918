import { FACE_SHAPES, type FaceShape } from '../face/face-shapes';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { cutoutFace, FACE_PAPERS, type FacePaper } from './cutout-face';

const face = cutoutFace(humanoidSkeleton(averageProportions(1.75)));

/** How far the vertices of a part on a side (or of both) move on average at a shape, metres. */
function moved(shape: FaceShape, paper: FacePaper, side?: 1 | -1): number[] {
  const target = face.targets.get(shape);
  const sum = [0, 0, 0];
  let count = 0;
  face.papers.forEach((own, v) => {
    if (FACE_PAPERS[own] !== paper || (side && Math.sign(face.positions[v * 3]) !== side)) return;
    count++;
    for (let k = 0; k < 3; k++) sum[k] += target?.[v * 3 + k] ?? 0;
  });
  return sum.map((value) => value / count);
}

describe('the face of the cut-out figure', () => {
  it('moves at shapes of the trade alone, by millimetres, and has all its parts', () => {
    expect([...face.targets.keys()].every((shape) => FACE_SHAPES.includes(shape))).toBe(true);
    expect(new Set(face.papers).size).toBe(FACE_PAPERS.length);
    for (const [shape, target] of face.targets) {
      const most = Math.max(...target.map(Math.abs));
      expect([shape, most > 5e-4 && most < 0.05]).toEqual([shape, true]);
      expect(target).toHaveLength(face.positions.length);
    }
  });

  it('is the same on both sides', () => {
    for (const shape of face.targets.keys()) {
      if (!shape.endsWith('Left')) continue;
      const other = shape.replace(/Left$/, 'Right') as FaceShape;
      for (const paper of FACE_PAPERS) {
        const [left, right] = [moved(shape, paper), moved(other, paper)];
        expect(right[0]).toBeCloseTo(-left[0], 6);
        expect(right[1]).toBeCloseTo(left[1], 6);
      }
    }
  });

  it('does what its shapes are called', () => {
    expect(moved('browInnerUp', 'brow')[1]).toBeGreaterThan(0.003);
    expect(moved('browDownLeft', 'brow', 1)[1]).toBeLessThan(-0.003);
    expect(moved('browDownLeft', 'brow', -1)[1]).toBeCloseTo(0, 9);
    // The left eye looks out to its own side, which is +X.
    expect(moved('eyeLookOutLeft', 'iris', 1)[0]).toBeGreaterThan(0.004);
    expect(moved('eyeLookInLeft', 'iris', 1)[0]).toBeLessThan(-0.004);
    expect(moved('eyeLookUpRight', 'iris', -1)[1]).toBeGreaterThan(0.003);
    expect(moved('mouthSmileLeft', 'lip', 1)[1]).toBeGreaterThan(moved('mouthFrownLeft', 'lip', 1)[1]);
    expect(moved('jawOpen', 'lip')[1]).toBeLessThan(-0.002);
  });
});
