import { exampleMotion } from '../../test/example-motion';
import { copyMotion, restMotion, worldPositions, type Motion } from '../motion/motion';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { alignPoints, applyAlignment, meanDistance } from '../motion/align-points';
import { measureMotion } from './measure-motion';
import { readTruth, type Truth } from './truth';

function truthFrom(motion: Motion, contact: 0 | 1): Truth {
  const stride = motion.skeleton.joints.length * 3;
  const all = worldPositions(motion);
  const flags = Array.from({ length: motion.frames }, () => contact);
  return {
    format: 'merry-shadow truth',
    version: 1,
    clip: 'example',
    performer: 'p',
    rate: motion.rate,
    frames: motion.frames,
    height: 1.7,
    camera: { position: [0, 1, 4], axes: [1, 0, 0, 0, 1, 0, 0, 0, 1], focal: 900, width: 960, height: 540 },
    joints: motion.skeleton.joints.map((joint) => joint.name),
    parents: motion.skeleton.joints.map((joint) => joint.parent),
    positions: Array.from({ length: motion.frames }, (_, f) => Array.from(all.subarray(f * stride, (f + 1) * stride))),
    rotations: [],
    contacts: { leftHeel: flags, leftToe: flags, rightHeel: flags, rightToe: flags },
    mouth: [],
    eyelids: [],
  };
}

describe('alignment', () => {
  const points = Float64Array.from({ length: 30 }, (_, i) => Math.sin(i * 1.7) + 0.1 * i);

  it('undoes a known turn, scale and shift', () => {
    const moved = applyAlignment({ scale: 1.7, rotation: [0, 0, 1, 1, 0, 0, 0, 1, 0], shift: [3, -2, 5] }, points);
    const found = alignPoints(points, moved, true);
    expect(found.scale).toBeCloseTo(1.7, 9);
    expect(meanDistance(applyAlignment(found, points), moved)).toBeLessThan(1e-9);
    expect(alignPoints(points, moved, false).scale).toBe(1);
  });

  it('never mirrors', () => {
    const mirrored = points.map((value, i) => (i % 3 === 0 ? -value : value));
    const { rotation: r } = alignPoints(points, mirrored, true);
    const determinant =
      r[0] * (r[4] * r[8] - r[5] * r[7]) - r[1] * (r[3] * r[8] - r[5] * r[6]) + r[2] * (r[3] * r[7] - r[4] * r[6]);
    expect(determinant).toBeCloseTo(1, 9);
  });
});

describe('peaks of wrist speed', () => {
  /** An arm that strikes once, `degrees` far. */
  const strike = (degrees: number): Motion => {
    const motion = restMotion(humanoidSkeleton(averageProportions(1.7)), 60, 30);
    const arm = motion.skeleton.joints.findIndex((joint) => joint.name === 'rightUpperArm');
    for (let f = 0; f < 60; f++) {
      const half = ((degrees * Math.PI) / 360) * Math.tanh((f - 30) / 3);
      motion.rotations.set([0, 0, Math.sin(half), Math.cos(half)], (arm * 60 + f) * 4);
    }
    return motion;
  };

  it('are compared where the truth is fast, and only there', () => {
    const truth = truthFrom(strike(90), 0);
    expect(measureMotion(strike(90), truth).wristPeakLossPercent).toBeCloseTo(0, 6);
    const less = measureMotion(strike(81), truth).wristPeakLossPercent;
    expect(less).toBeGreaterThan(8.5);
    expect(less).toBeLessThan(10.5);
    expect(measureMotion(strike(90), truthFrom(strike(10), 0)).wristPeakLossPercent).toBeNaN();
  });
});

describe('measuring a motion', () => {
  it('finds no fault in the truth itself', () => {
    const motion = exampleMotion();
    const figures = measureMotion(motion, truthFrom(motion, 0));
    expect(figures.paMpjpeMm).toBeLessThan(1e-3);
    expect(figures.wholeClipMpjpeMm).toBeLessThan(1e-3);
    expect(figures.rootAlignedMpjpeMm).toBeLessThan(1e-3);
    expect(figures.jerkRatio).toBeCloseTo(1, 6);
    expect(figures.boneLengthVariationPercent).toBeLessThan(1e-3);
    expect(figures.joints).toBe(12);
  });

  it('sees a path that bends away only in the whole-clip figure', () => {
    const motion = exampleMotion();
    const off = copyMotion(motion);
    for (let f = 0; f < off.frames; f++) off.root[f * 3] += 0.001 * f * f;
    const figures = measureMotion(off, truthFrom(motion, 0));
    expect(figures.paMpjpeMm).toBeLessThan(1e-2);
    expect(figures.wholeClipMpjpeMm).toBeGreaterThan(100);
  });

  it('measures slide, hovering and sinking on a standing figure', () => {
    const still = restMotion(humanoidSkeleton(averageProportions(1.7)), 20, 30);
    const truth = truthFrom(still, 1);
    expect(measureMotion(still, truth).hoveringMm).toBeLessThan(1e-3);
    const moved = copyMotion(still);
    for (let f = 0; f < 20; f++) {
      moved.root[f * 3] += 0.004 * f;
      moved.root[f * 3 + 1] += f < 10 ? 0.02 : -0.01;
    }
    const figures = measureMotion(moved, truth);
    expect(figures.footSlideMmPerFrame).toBeCloseTo(4, 3);
    expect(figures.hoveringMm).toBeCloseTo(10, 3);
    expect(figures.sinkingMm).toBeCloseTo(5, 3);
    expect(figures.lowestSoleMm).toBeCloseTo(-10, 3);
  });

  it('refuses what can not be compared', () => {
    const motion = exampleMotion(5);
    expect(() => measureMotion({ ...motion, rate: 25 }, truthFrom(motion, 0))).toThrow("can't be compared");
    expect(() => measureMotion(motion, { ...truthFrom(motion, 0), joints: ['a'] })).toThrow('share too few joints');
    expect(() => readTruth('{')).toThrow('not valid JSON');
    expect(() => readTruth('{}')).toThrow("can't be used");
    const cut = truthFrom(motion, 0);
    cut.positions.pop();
    expect(() => readTruth(JSON.stringify(cut))).toThrow('positions must hold');
  });
});
