import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { joinObservationBytes } from '@merry-shadow/contracts/observation-bytes';
import { LivePose } from '@merry-shadow/core/live/live-pose';
import { correlation } from '@merry-shadow/core/measure/correlation';
import { measureFaceCurves } from '@merry-shadow/core/measure/measure-face';
import { measureHands } from '@merry-shadow/core/measure/measure-hands';
import { readTruth } from '@merry-shadow/core/measure/truth';
import { emptyPose, poseAt, type Motion } from '@merry-shadow/core/motion/motion';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';
import { sliceObservations } from '@merry-shadow/core/observe/observations';
import { solveTake } from '@merry-shadow/core/solve/solve-take';
import { readResults } from '../demo-results';

/** The demo's clip of a call over the wind, as it was tracked, solved and held against its truth: its performer is in no population that was learned from. */
const root = process.cwd();
const truth = readFile(join(root, 'demo/clips/call-over-the-wind.truth.json'), 'utf8').then(readTruth);
const solved = readResults(join(root, 'demo/tracked/keeper-calls-over-the-wind.obs.gz')).then(({ chunks }) => {
  const observations = joinObservationBytes(chunks.map(({ first, data }) => ({ first, bytes: data })));
  return { observations, ...solveTake(observations, { height: 1.78, fieldOfView: 44 }) };
});

it('its face blinks, speaks and smiles as the performer did', async () => {
  const { motion } = await solved;
  const { correlation, blinks } = measureFaceCurves(motion.curves, await truth);
  expect(blinks).toEqual({ true: 6, found: 6, false: 0 });
  expect(correlation.get('jawOpen')).toBeGreaterThan(0.9);
  expect(correlation.get('mouthSmileLeft')).toBeGreaterThan(0.8);
});

it('its fingers count, point and show the thumb, and no hand turns over', async () => {
  const { observations, motion, camera } = await solved;
  const { hands } = observations;
  const figures = measureHands(
    motion,
    await truth,
    (side, frame) => (hands?.[side].presence[frame] ?? 0) > 0.5,
    camera,
  );
  expect(figures.flipped).toBe(0);
  expect((figures.palm * 180) / Math.PI).toBeLessThan(18);
  // Index to little finger.
  for (const bends of figures.correlation.slice(1)) expect(bends).toBeGreaterThan(0.9);
  for (const off of figures.error.slice(1)) expect((off * 180) / Math.PI).toBeLessThan(25);
});

it('followed live, its jaw and lids move as the performer did, and its arms as they are solved', async () => {
  const { observations, motion } = await solved;
  const pose = new LivePose();
  const shown = Array.from({ length: observations.frames }, (_, frame) =>
    pose.next(sliceObservations(observations, frame, frame + 1), 1 / observations.rate),
  );
  expect(shown.every(Boolean)).toBe(true);
  const curve = (name: string): number[] =>
    shown.map((one) => one?.curves.find((other) => other.name === name)?.values[0] ?? NaN);
  const { correlation: told } = measureFaceCurves(
    ['face.jawOpen', 'face.eyeBlinkLeft'].map((name) => ({ name, values: Float32Array.from(curve(name)) })),
    await truth,
  );
  expect(told.get('jawOpen')).toBeGreaterThan(0.8);
  expect(told.get('eyeBlinkLeft')).toBeGreaterThan(0.7);
  const heights = (of: Motion, frame: number): number => {
    const { positions } = poseAt(of, frame, emptyPose(of.skeleton));
    const at = (name: string): number => positions[jointIndex(of.skeleton, name) * 3 + 1];
    return at('rightHand') - at('hips');
  };
  const live = shown.map((one) => (one ? heights(one, 0) : NaN));
  expect(
    correlation(
      live,
      live.map((_, frame) => heights(motion, frame)),
    ),
  ).toBeGreaterThan(0.95);
});
