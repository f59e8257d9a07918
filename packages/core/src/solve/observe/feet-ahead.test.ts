import { quat, vec3 } from 'gl-matrix';
import { observeMotion } from '../../../test/observe-motion';
import { lookAt } from '../../camera/pinhole';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { restMotion, writeRotation } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import { MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';
import { withFeetAhead } from './feet-ahead';

const HEIGHT = 1.7;
const FRAMES = 20;
const camera = lookAt([0, 1.4, 4], [0, 0.9, 0], 52, 960, 540);

/** Somebody who stands, turned by so many degrees, with joints turned as told. */
function standing(facing: number, turns: Record<string, [number, number, number]> = {}): BodyObservations {
  const motion = restMotion(humanoidSkeleton(averageProportions(HEIGHT)), FRAMES, 30);
  for (let f = 0; f < FRAMES; f++) {
    writeRotation(motion, 0, f, quat.fromEuler(quat.create(), 0, facing, 0));
    for (const [name, angles] of Object.entries(turns))
      writeRotation(motion, jointIndex(motion.skeleton, name), f, quat.fromEuler(quat.create(), ...angles));
  }
  return observeMotion(motion, camera, HEIGHT);
}

const at = (frame: number, mark: MarkName): number => (frame * MARK_COUNT + MARK[mark]) * 3;
const foot = ({ world }: BodyObservations, frame: number, side: 'left' | 'right'): vec3 =>
  [0, 1, 2].map((k) => world[at(frame, `${side}FootIndex`) + k] - world[at(frame, `${side}Heel`) + k]) as vec3;

describe('feet that point the way of their shins', () => {
  it.each([
    ['standing', 0, {}],
    ['turned away', 180, {}],
    ['with a foot turned out by 45°', 30, { leftFoot: [0, 45, 0] }],
    ['kneeling', 90, { leftUpperLeg: [-10, 0, 0], leftLowerLeg: [100, 0, 0], leftFoot: [40, 0, 0] }],
  ] as [string, number, Record<string, [number, number, number]>][])('stay as they are: %s', (_, facing, turns) => {
    const seen = standing(facing, turns);
    expect(withFeetAhead(seen).world).toEqual(seen.world);
  });

  it('are brought back where the network turned them round, and keep their length and middle', () => {
    const seen = standing(180);
    const world = seen.world.slice();
    const [heel, toe] = [at(7, 'rightHeel'), at(7, 'rightFootIndex')];
    for (let k = 0; k < 3; k++) [world[heel + k], world[toe + k]] = [world[toe + k], world[heel + k]];
    world[toe] += 0.02;
    const mended = withFeetAhead({ ...seen, world });
    const [right, wrong, now] = [
      foot(seen, 7, 'right'),
      foot({ ...seen, world }, 7, 'right'),
      foot(mended, 7, 'right'),
    ];
    expect(vec3.angle(wrong, right)).toBeGreaterThan(2.5);
    expect(vec3.angle(now, right)).toBeLessThan(1.2);
    expect(vec3.length(now)).toBeCloseTo(vec3.length(wrong), 5);
    for (let k = 0; k < 3; k++)
      expect(mended.world[heel + k] + mended.world[toe + k]).toBeCloseTo(world[heel + k] + world[toe + k], 5);
    expect(foot(mended, 8, 'right')).toEqual(foot(seen, 8, 'right'));
  });
});
