import { quat } from 'gl-matrix';
import { observeMotion, solveMade } from '../../../test/observe-motion';
import { lookAt } from '../../camera/pinhole';
import { alignPoints, applyAlignment, meanDistance } from '../../motion/align-points';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { restMotion, worldPositions, writeRotation, type Motion } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import type { BodyObservations } from '../../observe/body';
import { joinFootage, sliceFootage } from '../../observe/slice-footage';
import { foundCuts, shotAt, shotSpans } from './shots';
import { SolveError } from '../solve-take';

const HEIGHT = 1.74;
const FRAMES = 80;
const CUT = 40;
const front = lookAt([0.3, 1.4, 4.5], [0, 0.9, 0], 50, 1280, 720);
const side = lookAt([-2.6, 1.1, 3.4], [0, 0.9, 0], 50, 1280, 720);

/** Glides to the left while arms swing: fast enough that standing still over a cut would show. */
function performance(): Motion {
  const motion = restMotion(humanoidSkeleton(averageProportions(HEIGHT)), FRAMES, 30);
  const turn = (name: string, f: number, x: number, y: number, z: number): void =>
    writeRotation(motion, jointIndex(motion.skeleton, name), f, quat.fromEuler(quat.create(), x, y, z));
  for (let f = 0; f < FRAMES; f++) {
    turn('leftUpperArm', f, 0, -20, 40 * Math.sin(f / 10));
    turn('rightUpperArm', f, 0, 15, 50);
    turn('leftLowerArm', f, 0, -50 - 20 * Math.sin(f / 8), 0);
    motion.root[f * 3] += -0.5 + f * 0.012;
  }
  return motion;
}

/** The performance filmed from the front, and from the cut on from the side. */
function filmed(): BodyObservations {
  const motion = performance();
  const first = sliceFootage(observeMotion(motion, front, HEIGHT), 0, CUT);
  const second = sliceFootage(observeMotion(motion, side, HEIGHT), CUT, FRAMES);
  const cut = new Float32Array(FRAMES);
  cut[CUT] = 1;
  return { ...joinFootage([first, second]), cut };
}

const wholeClip = (a: Motion, b: Motion): number => {
  const [own, real] = [worldPositions(a), worldPositions(b)];
  return meanDistance(applyAlignment(alignPoints(own, real, false), own), real);
};

describe('shots', () => {
  it('lie between cuts, wherever those are said to be', () => {
    expect(shotSpans(10, [])).toEqual([[0, 10]]);
    expect(shotSpans(10, [7, 3, 3, 0, -2, 10, 99])).toEqual([
      [0, 3],
      [3, 7],
      [7, 10],
    ]);
    expect(foundCuts({ cut: Float32Array.of(0, 0, 1, 0, 1) })).toEqual([2, 4]);
    expect(foundCuts({})).toEqual([]);
    const spans = [
      { from: 0, until: 3 },
      { from: 3, until: 8 },
    ];
    expect([0, 2, 3, 99].map((frame) => shotAt(spans, frame).from)).toEqual([0, 0, 3, 3]);
  });

  it('are joined in one world: the performer goes on where he was, as fast as he was', () => {
    const { motion, shots, camera, bridged } = solveMade(filmed(), { height: HEIGHT, fieldOfView: 50 });
    expect(shots.map(({ from, until }) => [from, until])).toEqual([
      [0, CUT],
      [CUT, FRAMES],
    ]);
    expect(camera).toEqual(shots[0].camera);
    expect(wholeClip(motion, performance())).toBeLessThan(0.05);
    const step = (f: number): number =>
      Math.hypot(motion.root[f * 3] - motion.root[f * 3 - 3], motion.root[f * 3 + 2] - motion.root[f * 3 - 1]);
    expect(Math.abs(step(CUT) - 0.012)).toBeLessThan(0.006);
    // The second camera stands where it stood, seen from the first.
    const apart = (a: readonly number[], b: readonly number[]): number =>
      Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
    const real = apart(front.position, side.position);
    expect(Math.abs(apart(shots[0].camera.position, shots[1].camera.position) - real)).toBeLessThan(0.4);
    expect(Array.from(bridged).every((flag) => flag === 0)).toBe(true);
  });

  it('solved as one would be torn', () => {
    const joined = solveMade(filmed(), { height: HEIGHT, fieldOfView: 50 });
    const torn = solveMade(filmed(), { height: HEIGHT, fieldOfView: 50, cuts: [] });
    expect(torn.shots).toHaveLength(1);
    expect(wholeClip(torn.motion, performance())).toBeGreaterThan(3 * wholeClip(joined.motion, performance()));
  });

  it('in which nobody is seen are bridged', () => {
    const footage = filmed();
    footage.presence.fill(0, CUT, CUT + 12);
    footage.marks.fill(NaN, CUT * 99, (CUT + 12) * 99);
    const { motion, shots, bridged } = solveMade(footage, { height: HEIGHT, fieldOfView: 50, cuts: [CUT, CUT + 12] });
    expect(shots.map(({ from, until }) => [from, until])).toEqual([
      [0, CUT],
      [CUT + 12, FRAMES],
    ]);
    expect(Array.from(bridged).map((flag, f) => flag === Number(f >= CUT && f < CUT + 12))).not.toContain(false);
    // He went on meanwhile as fast as before.
    const way = motion.root[(CUT + 12) * 3] - motion.root[(CUT - 1) * 3];
    expect(Math.abs(Math.abs(way) - 13 * 0.012)).toBeLessThan(0.05);
    expect(motion.rotations.every(Number.isFinite)).toBe(true);
  });
});

describe('a film in which nobody is convincingly seen', () => {
  it('gives a sentence and no motion', () => {
    const footage = filmed();
    for (let f = 0; f < FRAMES; f++)
      if (f % 20 > 8) {
        footage.presence[f] = 0;
        footage.marks.fill(NaN, f * 99, f * 99 + 99);
      }
    expect(() => solveMade(footage)).toThrow(SolveError);
    expect(() => solveMade(footage)).toThrow('only in 36 of 80 frames, and never for half a second');
  });
});
