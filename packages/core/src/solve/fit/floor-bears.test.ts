import { bearing, heightOnFloor } from './floor-bears';

describe('a floor that bears the body', () => {
  it('keeps soles on it, joints of limbs and trunk above it by what is below them, and leaves the rest to those', () => {
    expect(heightOnFloor('leftHeelSole')).toBe(0);
    expect(heightOnFloor('rightKnee')).toBeGreaterThan(0);
    expect(heightOnFloor('leftHip')).toBeGreaterThan(heightOnFloor('leftWrist') as number);
    for (const free of ['leftKneecap', 'rightHipFront', 'leftAnkle', 'leftHeel'])
      expect(heightOnFloor(free)).toBeNull();
  });

  it('yields where a body is seen far below it, as the floor may be wrong', () => {
    const force = (below: number): number => bearing(below) * below;
    expect(bearing(0.01)).toBe(bearing(0.05));
    expect(force(0.05)).toBeGreaterThan(force(0.01));
    expect(force(0.5)).toBeCloseTo(force(0.3), 6);
  });
});
