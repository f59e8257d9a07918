import { quat } from 'gl-matrix';
import { observeMotion } from '../../../test/observe-motion';
import { lookAt } from '../../camera/pinhole';
import { solePoints } from '../../ground/floor';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { restMotion, writeRotation, type Motion } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import { MARK, MARK_COUNT } from '../../observe/body';
import { standingSoles, staysPut } from './standing';

const HEIGHT = 1.75;
const camera = lookAt([0, 1.4, 4.6], [0, 0.9, 0], 50, 1280, 720);
const body = (frames = 30): Motion => restMotion(humanoidSkeleton(averageProportions(HEIGHT)), frames, 30);

/** Which soles rest at a frame, by name. */
function resting(motion: Motion, frame: number): string[] {
  const soles = standingSoles(motion, observeMotion(motion, camera, HEIGHT));
  return solePoints(motion).flatMap(({ name }, i) => (soles[i][frame] ? [name] : []));
}

describe('marks that stay put', () => {
  const still = observeMotion(body(), camera, HEIGHT);

  it('are told from those that go on', () => {
    expect(staysPut(still, 'leftAnkle', 12)).toBe(true);
    const marks = still.marks.slice();
    for (let frame = 0; frame < still.frames; frame++) marks[(frame * MARK_COUNT + MARK.leftAnkle) * 3] += 5 * frame;
    expect(staysPut({ ...still, marks }, 'leftAnkle', 12)).toBe(false);
    expect(staysPut({ ...still, marks }, 'rightAnkle', 12)).toBe(true);
  });

  it('are none where nobody is seen', () => {
    expect(staysPut({ ...still, marks: still.marks.slice().fill(NaN) }, 'leftAnkle', 12)).toBe(false);
  });
});

describe('soles that rest in the picture', () => {
  it('are all of somebody who stands, wherever the path has them', () => {
    const motion = body();
    for (let f = 0; f < motion.frames; f++) motion.root[f * 3 + 1] += 0.4;
    expect(resting(motion, 15)).toEqual(['leftHeel', 'leftToe', 'rightHeel', 'rightToe']);
  });

  it('are none in the air', () => {
    const motion = body();
    for (let f = 0; f < motion.frames; f++)
      motion.root[f * 3 + 1] += Math.max(0, 0.3 - 4.9 * ((f - 15) / 30 - 0.05) ** 2 * 4);
    expect(resting(motion, 12)).toEqual([]);
  });

  it('are not those of a foot that is held up, however still', () => {
    const motion = body();
    for (let f = 0; f < motion.frames; f++) {
      writeRotation(motion, jointIndex(motion.skeleton, 'leftUpperLeg'), f, quat.fromEuler(quat.create(), -60, 0, 0));
      writeRotation(motion, jointIndex(motion.skeleton, 'leftLowerLeg'), f, quat.fromEuler(quat.create(), 80, 0, 0));
    }
    expect(resting(motion, 15)).toEqual(['rightHeel', 'rightToe']);
  });
});
