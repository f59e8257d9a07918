import { quat, vec3 } from 'gl-matrix';
import { observeMotion, solveMade } from '../../../test/observe-motion';
import { lookAt, type PinholeCamera } from '../../camera/pinhole';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { restMotion, worldPositions, writeRotation, type Motion } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import type { BodyObservations } from '../../observe/body';
import { peopleGround } from './people-ground';

const DEGREES = 180 / Math.PI;
const FIELD_OF_VIEW = 50;
const steep = lookAt([0.6, 3.6, 6], [0, 0.6, 0], FIELD_OF_VIEW, 1280, 720);
const pitchOf = (up: vec3): number => Math.atan2(up[2], up[1]) * DEGREES;
const truePitch = (camera: PinholeCamera): number => Math.atan2(camera.axes[7], camera.axes[4]) * DEGREES;

/** Somebody who stands for a while at each of some places, and glides from one to the next. */
function standing(height: number, places: readonly (readonly [number, number])[], each = 24): Motion {
  const glide = 8;
  const motion = restMotion(humanoidSkeleton(averageProportions(height)), places.length * (each + glide), 30);
  for (const side of ['left', 'right'] as const)
    for (let f = 0; f < motion.frames; f++)
      writeRotation(
        motion,
        jointIndex(motion.skeleton, `${side}UpperArm`),
        f,
        quat.fromEuler(quat.create(), 0, 0, side === 'left' ? -70 : 70),
      );
  for (let f = 0; f < motion.frames; f++) {
    const here = Math.floor(f / (each + glide));
    const from = places[here];
    const to = places[Math.min(places.length - 1, here + 1)];
    const t = Math.max(0, ((f % (each + glide)) - each) / glide);
    motion.root[f * 3] = from[0] + (to[0] - from[0]) * t;
    motion.root[f * 3 + 2] = from[1] + (to[1] - from[1]) * t;
  }
  return motion;
}

/** As the network sees people from steep cameras: as if the camera stood more level than it does. */
function levelled(observations: BodyObservations, degrees: number): BodyObservations {
  const world = observations.world.slice();
  const turn = quat.fromEuler(quat.create(), -degrees, 0, 0);
  for (let i = 0; i < world.length; i += 3)
    world.set(vec3.transformQuat([0, 0, 0], [world[i], world[i + 1], world[i + 2]], turn), i);
  return { ...observations, world };
}

const PLACES = [
  [-1.2, -1.6],
  [0.9, -1.1],
  [1.1, 0.2],
  [-0.9, 0.5],
  [-0.4, 1.6],
  [0.8, 1.3],
] as const;
const seen = (height: number, places: readonly (readonly [number, number])[], camera = steep): BodyObservations =>
  levelled(observeMotion(standing(height, places), camera, height), 10);

describe('floor and camera told by people', () => {
  it('are right from near and far, though bodies seem to stand ten degrees off', () => {
    const told = peopleGround([{ observations: seen(1.75, PLACES), height: 1.75 }], steep.focal);
    expect(Math.abs(pitchOf(told?.up as vec3) - truePitch(steep))).toBeLessThan(3);
    expect(told?.cameraHeight).toBeGreaterThan(3.2);
    expect(told?.cameraHeight).toBeLessThan(3.9);
    expect((told?.pitchDoubt as number) * DEGREES).toBeLessThan(2.5);
  });

  it('are doubted where somebody stays at one place', () => {
    const told = peopleGround([{ observations: seen(1.75, [[0, 0]]), height: 1.75 }], steep.focal);
    expect((told?.pitchDoubt as number) * DEGREES).toBeGreaterThan(3);
  });

  it('tell how tall people are against each other, and all by one who is known', () => {
    const others = [
      { observations: seen(1.9, PLACES), height: 1.9 },
      {
        observations: seen(1.5, [
          [1.3, 0.9],
          [-1.2, 0.2],
          [0.2, -1.4],
          [-0.8, 1.4],
          [0.4, 0.6],
          [1.2, -0.8],
        ]),
      },
    ];
    const told = peopleGround(others, steep.focal);
    expect(told?.heights[0]).toBe(1.9);
    expect(Math.abs((told?.heights[1] as number) / 1.5 - 1)).toBeLessThan(0.03);
    const unknown = peopleGround([{ observations: others[0].observations }, others[1]], steep.focal);
    const ratio = (unknown?.heights[0] as number) / (unknown?.heights[1] as number);
    expect(Math.abs(ratio / (1.9 / 1.5) - 1)).toBeLessThan(0.05);
  });

  it('are nothing where nobody stands upright', () => {
    const motion = standing(1.75, PLACES);
    for (const side of ['left', 'right'])
      for (let f = 0; f < motion.frames; f++) {
        writeRotation(
          motion,
          jointIndex(motion.skeleton, `${side}UpperLeg`),
          f,
          quat.fromEuler(quat.create(), -80, 0, 0),
        );
        writeRotation(
          motion,
          jointIndex(motion.skeleton, `${side}LowerLeg`),
          f,
          quat.fromEuler(quat.create(), 80, 0, 0),
        );
      }
    expect(peopleGround([{ observations: observeMotion(motion, steep, 1.75) }], steep.focal)).toBeNull();
  });

  it('put walkers on the floor in a take from above', () => {
    const { motion, camera } = solveMade(seen(1.75, PLACES), { height: 1.75, fieldOfView: FIELD_OF_VIEW });
    expect(Math.abs(truePitch(camera) - truePitch(steep))).toBeLessThan(3);
    const feet = worldPositions(motion);
    const ankle = jointIndex(motion.skeleton, 'leftFoot') * 3 + 1;
    const stride = motion.skeleton.joints.length * 3;
    for (let f = 4; f < motion.frames - 4; f++) {
      expect(feet[f * stride + ankle]).toBeGreaterThan(0);
      expect(feet[f * stride + ankle]).toBeLessThan(0.16);
    }
  });
});

describe('one world for two', () => {
  const camera = lookAt([0.2, 2.2, 5], [0, 0.8, 0], FIELD_OF_VIEW, 1280, 720);
  const tall = seen(1.85, [[-1.2, -0.6], [-0.6, 0.4]], camera); // prettier-ignore
  const small = seen(1.6, [[1.1, 0.5], [0.7, -0.5]], camera); // prettier-ignore
  const options = { fieldOfView: FIELD_OF_VIEW };

  it('keeps where they stand to each other, and the height of the one who is not known', () => {
    const a = solveMade(tall, { ...options, height: 1.85, others: [{ footage: small }] });
    const b = solveMade(small, { ...options, others: [{ footage: tall, height: 1.85 }] });
    expect(Math.abs(b.body.proportions.height / 1.6 - 1)).toBeLessThan(0.03);
    expect(b.body.heightEstimated).toBe(true);
    for (const [frame, x, z] of [
      [10, 2.3, 1.1],
      [45, 1.3, -0.9],
    ]) {
      const apart = [0, 2].map((k) => b.motion.root[frame * 3 + k] - a.motion.root[frame * 3 + k]);
      expect(Math.hypot(apart[0] - x, apart[1] - z)).toBeLessThan(0.35);
    }
    for (let k = 0; k < 3; k += 2) expect(a.camera.position[k]).toBeCloseTo(b.camera.position[k], 1);
  });

  it('leaves a take as it is whose other capture saw the same performer', () => {
    const alone = solveMade(tall, { ...options, height: 1.85 });
    const twice = solveMade(tall, { ...options, height: 1.85, others: [{ footage: tall, height: 1.7 }] });
    expect(Array.from(twice.motion.root)).toEqual(Array.from(alone.motion.root));
  });
});
