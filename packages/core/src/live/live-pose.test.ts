import { jointIndex } from '../motion/skeleton';
import { emptyPose, poseAt, type Motion } from '../motion/motion';
import { lowestSole } from '../ground/floor';
import { MARK, MARK_COUNT, type MarkName } from '../observe/body';
import { emptyObservations, type Observations } from '../observe/observations';
import { LivePose } from './live-pose';

/** Somebody who stands and faces the camera, the left arm raised by an angle above straight aside. */
function standing(raised = 0): Observations {
  const seen = emptyObservations(1, 30, 640, 480, { hands: false, face: false });
  seen.presence.fill(1);
  const put = (mark: MarkName, x: number, y: number, z = 0): void => {
    seen.world.set([x, y, z], MARK[mark] * 3);
    seen.marks.set([320 + x * 200, 240 - y * 200, 0.9], MARK[mark] * 3);
  };
  for (let mark = 0; mark < MARK_COUNT; mark++) seen.marks.set([320, 140, 0.9], mark * 3);
  put('nose', 0, 0.7, 0.12);
  for (const side of ['left', 'right'] as const) {
    const s = side === 'left' ? 1 : -1;
    const angle = side === 'left' ? raised : 0;
    const arm = (far: number): [number, number] => [s * (0.18 + far * Math.cos(angle)), 0.5 + far * Math.sin(angle)];
    put(`${side}Ear`, 0.07 * s, 0.7);
    put(`${side}Shoulder`, 0.18 * s, 0.5);
    put(`${side}Elbow`, ...arm(0.28));
    put(`${side}Wrist`, ...arm(0.53));
    put(`${side}Index`, ...arm(0.62), 0.03);
    put(`${side}Pinky`, ...arm(0.61), -0.03);
    put(`${side}Hip`, 0.1 * s, 0);
    put(`${side}Knee`, 0.1 * s, -0.42, 0.01);
    put(`${side}Ankle`, 0.1 * s, -0.83);
    put(`${side}Heel`, 0.1 * s, -0.88, -0.05);
    put(`${side}FootIndex`, 0.11 * s, -0.9, 0.12);
  }
  return seen;
}

const heightOf = (motion: Motion | null, bone: string): number => {
  if (!motion) throw new Error('nobody is seen');
  return poseAt(motion, 0, emptyPose(motion.skeleton)).positions[jointIndex(motion.skeleton, bone) * 3 + 1];
};

describe('a performer who is followed live', () => {
  it('stands on the floor, upright, in the pose that is seen', () => {
    const motion = new LivePose().next(standing(), 1 / 15);
    expect(heightOf(motion, 'head')).toBeGreaterThan(1.4);
    expect(heightOf(motion, 'leftHand')).toBeCloseTo(heightOf(motion, 'leftUpperArm'), 1);
    expect(motion && lowestSole(motion)[0]).toBeCloseTo(0, 5);
    // Fingers that are not seen are at ease.
    expect(heightOf(motion, 'leftIndexDistal')).toBeLessThan(heightOf(motion, 'leftHand') + 0.05);
  });

  it('is followed at once where it moves far, and calmly where it hardly does', () => {
    const pose = new LivePose();
    const before = heightOf(pose.next(standing(), 1 / 15), 'leftHand');
    const shaken = heightOf(pose.next(standing(0.02), 1 / 15), 'leftHand') - before;
    expect(shaken).toBeGreaterThan(0);
    expect(shaken).toBeLessThan(0.6 * 0.53 * 0.02);
    const raised = heightOf(pose.next(standing(1.2), 1 / 15), 'leftHand') - before;
    expect(raised).toBeGreaterThan(0.35);
  });

  it('is always the same figure, with a face at rest until one is seen', () => {
    const pose = new LivePose();
    const [a, b] = [pose.next(standing(), 1 / 15), pose.next(standing(0.5), 1 / 15)];
    expect(a?.skeleton).toBe(b?.skeleton);
    expect(a?.curves.find(({ name }) => name === 'face.jawOpen')?.values[0]).toBe(0);
  });

  it('is nobody where nobody is seen', () => {
    const seen = standing();
    seen.presence[0] = 0;
    expect(new LivePose().next(seen, 1 / 15)).toBeNull();
  });
});
