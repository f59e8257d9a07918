import { lookAt } from '@merry-shadow/core/camera/pinhole';
import { Truth } from '@merry-shadow/core/measure/truth';
import { averageProportions, humanoidSkeleton } from '@merry-shadow/core/motion/humanoid';
import { restMotion, worldPositions } from '@merry-shadow/core/motion/motion';
import { MARK, MARK_COUNT } from '@merry-shadow/core/observe/body';
import { emptyObservations } from '@merry-shadow/core/observe/observations';
import { project } from '@merry-shadow/core/camera/pinhole';
import type { MarkPart } from '@merry-shadow/core/solve/body/joint-offsets';
import { addOffsets, offsetOf, shrunk, type OffsetSums } from './mark-offsets';

const HEIGHT = 1.7;
const FRAMES = 30;
const skeleton = humanoidSkeleton(averageProportions(HEIGHT));

/** Somebody who stands before a camera, as truth and with knees marked so much beside their joints: metres. */
function clip(camera: ReturnType<typeof lookAt>, beside: readonly [number, number, number]) {
  const motion = restMotion(skeleton, FRAMES, 30);
  const places = worldPositions(motion);
  const joints = skeleton.joints.map(({ name }) => name);
  const rows = (width: number, of: (frame: number) => number[]): number[][] =>
    Array.from({ length: FRAMES }, (_, frame) => of(frame).slice(0, joints.length * width));
  const truth = Truth.parse({
    format: 'merry-shadow truth',
    version: 1,
    clip: 'made',
    performer: 'keeper',
    rate: 30,
    frames: FRAMES,
    height: HEIGHT,
    camera: { ...camera, position: [...camera.position], axes: [...camera.axes] },
    joints,
    parents: skeleton.joints.map(({ parent }) => parent),
    positions: rows(3, (f) => Array.from(places.subarray(f * joints.length * 3, (f + 1) * joints.length * 3))),
    rotations: rows(4, () => joints.flatMap(() => [0, 0, 0, 1])),
    contacts: Object.fromEntries(
      ['leftHeel', 'leftToe', 'rightHeel', 'rightToe'].map((name) => [name, Array(FRAMES).fill(1)]),
    ),
    mouth: [],
    eyelids: [],
  });
  const seen = emptyObservations(FRAMES, 30, camera.width, camera.height, { hands: false, face: false });
  seen.presence.fill(1);
  seen.marks.fill(400);
  seen.world.fill(0);
  for (let f = 0; f < FRAMES; f++)
    for (const [side, sign] of [
      ['left', 1],
      ['right', -1],
    ] as const) {
      const [x, y, z] = truth.positions[f].slice(joints.indexOf(`${side}LowerLeg`) * 3);
      const [u, v] = project(camera, x + sign * beside[0], y + beside[1], z + beside[2]);
      seen.marks.set([u, v, 0.9], (f * MARK_COUNT + MARK[`${side}Knee`]) * 3);
    }
  return { seen, truth };
}

describe('where marks lie beside their joints', () => {
  it('is told by clips from several sides, the same for left and right', () => {
    const sums = new Map<MarkPart, OffsetSums>();
    for (const from of [
      [0, 1, 4],
      [3.5, 1.3, 2],
    ] as const) {
      const { seen, truth } = clip(lookAt(from, [0, 0.9, 0], 50, 960, 540), [0.01, -0.02, 0.03]);
      addOffsets(sums, seen, truth);
    }
    const [x, y, z] = offsetOf(sums.get('Knee') as OffsetSums).map((part) => part * HEIGHT);
    expect(x).toBeCloseTo(0.01, 2);
    expect(y).toBeCloseTo(-0.02, 2);
    expect(z).toBeCloseTo(0.03, 2);
  });

  it('is believed as far as families agree on it', () => {
    expect(shrunk([0.01, 0.01, 0.01]).shrunk).toBeCloseTo(0.01, 10);
    const apart = shrunk([0.03, -0.01, 0.02, 0]);
    expect(apart.mean).toBeCloseTo(0.01, 10);
    expect(apart.shrunk).toBeLessThan(0.3 * apart.mean);
    expect(shrunk([0, 0]).shrunk).toBe(0);
  });
});
