import { quat } from 'gl-matrix';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { restMotion, writeRotation, readRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { KeyPoses, movePose, togglePose } from './key-poses';
import { proposeKeyPoses } from './propose';
import { showKeyPoses } from './show-key-poses';

const RATE = 30;
/** An arm that swings up and down, a second for both ways, while the body walks on at an even speed. */
function swinging(frames: number): Motion {
  const motion = restMotion(humanoidSkeleton(averageProportions(1.7)), frames, RATE);
  const arm = jointIndex(motion.skeleton, 'leftUpperArm');
  for (let f = 0; f < frames; f++) {
    writeRotation(motion, arm, f, quat.setAxisAngle(quat.create(), [0, 0, 1], Math.cos((2 * Math.PI * f) / RATE)));
    motion.root[f * 3 + 2] = f / RATE;
  }
  return motion;
}
const armTurn = (motion: Motion, frame: number): number => {
  const turn = readRotation(motion, jointIndex(motion.skeleton, 'leftUpperArm'), frame, quat.create());
  return 2 * Math.atan2(turn[2], turn[3]);
};
const poses = (...frames: number[]): KeyPoses['poses'] => frames.map((frame) => ({ frame, as: 'extreme' }));

describe('proposed key poses', () => {
  it('are where a movement turns, whatever the body does on the whole', () => {
    const found = proposeKeyPoses(swinging(91), 1);
    expect(found.map(({ as }) => as)).toEqual(found.map(() => 'extreme'));
    expect(found).toHaveLength(7);
    found.forEach(({ frame }, i) => expect(Math.abs(frame - i * 15)).toBeLessThanOrEqual(1));
  });

  it('are more the nearer they have to keep to the motion, with breakdowns between extremes', () => {
    const motion = swinging(91);
    const [far, near] = [0.3, 0.05].map((off) => proposeKeyPoses(motion, off));
    expect(near.length).toBeGreaterThan(far.length);
    expect(near.some(({ as }) => as === 'breakdown')).toBe(true);
    const shown = showKeyPoses(motion, KeyPoses.parse({ poses: near, between: 'straight' }));
    for (let f = 0; f < motion.frames; f++)
      expect(Math.abs(armTurn(shown, f) - armTurn(motion, f))).toBeLessThan(0.05 / 0.45);
  });

  it('keep those that a person set, and need no motion to be long', () => {
    expect(proposeKeyPoses(swinging(91), 1, [{ frame: 22, as: 'breakdown' }])).toContainEqual({
      frame: 22,
      as: 'breakdown',
    });
    expect(proposeKeyPoses(swinging(1))).toEqual([{ frame: 0, as: 'extreme' }]);
  });
});

describe('a motion brought to its key poses', () => {
  const motion = swinging(61);

  it('holds each pose until the next', () => {
    const held = showKeyPoses(motion, { poses: poses(10, 25, 40), between: 'held' });
    expect(armTurn(held, 0)).toBeCloseTo(armTurn(motion, 10), 5);
    expect(armTurn(held, 24)).toBeCloseTo(armTurn(motion, 10), 5);
    expect(armTurn(held, 25)).toBeCloseTo(armTurn(motion, 25), 5);
    expect(held.root[60 * 3 + 2]).toBeCloseTo(40 / RATE, 5);
  });

  it('eases into extremes, and goes through breakdowns', () => {
    const [rest, through] = (['extreme', 'breakdown'] as const).map((as) =>
      showKeyPoses(motion, {
        poses: [
          { frame: 0, as: 'extreme' },
          { frame: 30, as },
          { frame: 60, as: 'extreme' },
        ],
        between: 'eased',
      }),
    );
    const speed = ({ root }: Motion, frame: number): number => root[(frame + 1) * 3 + 2] - root[frame * 3 + 2];
    expect(speed(rest, 30)).toBeLessThan(speed(rest, 15) / 5);
    expect(speed(through, 30)).toBeGreaterThan(speed(through, 1));
    for (const shown of [rest, through]) expect(shown.root[30 * 3 + 2]).toBeCloseTo(1, 5);
  });

  it('is left alone as captured, and without a pose', () => {
    expect(showKeyPoses(motion, { poses: poses(10), between: 'captured' })).toBe(motion);
    expect(showKeyPoses(motion, { poses: [], between: 'held' })).toBe(motion);
  });
});

describe('key poses changed by hand', () => {
  it('are put in and taken out, and moved over others', () => {
    expect(togglePose(poses(5, 20), 10)).toEqual(poses(5, 10, 20));
    expect(togglePose(poses(5, 20), 20)).toEqual(poses(5));
    expect(movePose(poses(5, 20), 5, 20)).toEqual(poses(20));
    expect(movePose(poses(5, 20), 20, 2)).toEqual(poses(2, 5));
    expect(KeyPoses.safeParse({ poses: poses(8, 3) }).success).toBe(false);
  });
});
