import { JUDGED } from '@merry-shadow/core/judge/judge';
import { cleanClip, faultyClip, FOOTAGE_FAULTS } from './faults';

/** Clips that are made with one fault each: everything else is as in the clip without. */
it('each fault is named for a judgement, and changes the clean clip', () => {
  const clean = cleanClip(3, 1);
  for (const fault of FOOTAGE_FAULTS) {
    expect(JUDGED).toContain(fault);
    const made = faultyClip(3, 1, fault);
    expect(made.name).toBe(`${fault}-3-1`);
    expect({ ...made, name: clean.name }).not.toEqual(clean);
  }
});

it('a fault leaves all else alone', () => {
  const clean = cleanClip(3, 2);
  expect(faultyClip(3, 2, 'noise')).toEqual({ ...clean, name: 'noise-3-2', film: { ...clean.film, grain: 26 } });
  const { camera } = faultyClip(3, 2, 'size');
  expect({ ...camera, position: clean.camera.position }).toEqual(clean.camera);
  const away = (position: readonly number[]): number =>
    Math.hypot(...position.map((value, k) => value - clean.camera.target[k]));
  expect(away(camera.position) / away(clean.camera.position)).toBeCloseTo(3, 6);
});

it('the same number gives the same clip, another one another, upright ones among them', () => {
  expect(cleanClip(3, 2)).toEqual(cleanClip(3, 2));
  expect(cleanClip(3, 3).performers[0].body).not.toEqual(cleanClip(3, 2).performers[0].body);
  expect([0, 1, 2].map((index) => cleanClip(3, index).size)).toEqual([
    [960, 540],
    [960, 540],
    [540, 960],
  ]);
});
