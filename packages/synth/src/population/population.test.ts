import { project } from '@merry-shadow/core/camera/pinhole';
import { worldPositions } from '@merry-shadow/core/motion/motion';
import { BUILDS, Script } from '../choreography/script';
import { setStage } from '../stage';
import { drawBody, type People } from './bodies';
import { chance } from './chance';
import { populationClip } from './clip';
import { drawMoves, PHRASES, type PhraseName } from './moves';

describe('drawing at random', () => {
  it('gives the same again for the same seed, and others for another', () => {
    const draws = (seed: number): number[] => Array.from({ length: 5 }, chance(seed).next);
    expect(draws(3)).toEqual(draws(3));
    expect(draws(3)).not.toEqual(draws(4));
  });

  it('has the mean and deviation that are asked for', () => {
    const { around } = chance(5);
    const list = Array.from({ length: 4000 }, () => around(2, 0.5));
    const mean = list.reduce((a, b) => a + b, 0) / list.length;
    const deviation = Math.sqrt(list.reduce((sum, value) => sum + (value - mean) ** 2, 0) / list.length);
    expect(mean).toBeCloseTo(2, 1);
    expect(deviation).toBeCloseTo(0.5, 1);
  });
});

describe('bodies of a population', () => {
  const many = (people: People) => {
    const draw = chance(11);
    return Array.from({ length: 400 }, () => drawBody(people, draw) as Required<ReturnType<typeof drawBody>>);
  };
  const mean = (list: number[]): number => list.reduce((a, b) => a + b, 0) / list.length;

  it('are as tall as their kind', () => {
    expect(mean(many('woman').map(({ height }) => height))).toBeCloseTo(1.63, 1);
    expect(mean(many('tall').map(({ height }) => height))).toBeGreaterThan(1.88);
    for (const { height, head } of many('child')) {
      expect(height).toBeLessThan(1.51);
      expect(head).toBeGreaterThan(0.95);
    }
    expect(mean(many('heavy').map(({ girth }) => girth))).toBeGreaterThan(1.2);
  });

  it('have long arms where they have long legs, more often than not', () => {
    const list = many('man');
    const [legs, arms] = [list.map((body) => body.legs), list.map((body) => body.arms)];
    const [l, a] = [mean(legs), mean(arms)];
    const covariance = mean(legs.map((value, i) => (value - l) * (arms[i] - a)));
    const spread = (values: number[], m: number): number => Math.sqrt(mean(values.map((value) => (value - m) ** 2)));
    const correlation = covariance / spread(legs, l) / spread(arms, a);
    expect(correlation).toBeGreaterThan(0.35);
    expect(correlation).toBeLessThan(0.65);
  });
});

describe('moves of a population', () => {
  it.each(Object.keys(PHRASES) as PhraseName[])('%s can be performed, and feet stay on or above the floor', (first) => {
    const moves = drawMoves(chance(21), 3, { height: 1.7, facing: 20, first, pose: first === 'walk' ? 'T' : null });
    const script = Script.parse({ name: 'try', seconds: 3, performers: [{ body: { height: 1.7 }, moves }] });
    const [{ motion }] = setStage(script).performances;
    const places = worldPositions(motion);
    const stride = motion.skeleton.joints.length * 3;
    expect(places.every(Number.isFinite)).toBe(true);
    const ankle = motion.skeleton.joints.findIndex(({ name }) => name === 'leftFoot') * 3 + 1;
    const lowest = Array.from({ length: motion.frames }, (_, f) => places[f * stride + ankle]);
    expect(Math.min(...lowest)).toBeGreaterThan(0.02);
  });
});

describe('clips of a population', () => {
  const clips = Array.from({ length: 8 }, (_, i) => populationClip(9, i));

  it('can be drawn again, have every builder and all kinds of people', () => {
    expect(populationClip(9, 3)).toEqual(clips[3]);
    expect(new Set(clips.map(({ performers }) => performers[0].build))).toEqual(new Set(BUILDS));
    expect(new Set(clips.map(({ performers }) => performers[0].name)).size).toBeGreaterThanOrEqual(4);
    expect(new Set(clips.map(({ name }) => name)).size).toBe(8);
  });

  it('see all of everybody all the time, by lenses and from heights that phones have', () => {
    for (const script of clips) {
      const { performances, cameras } = setStage(script);
      const [camera] = cameras;
      expect(script.camera.fieldOfView).toBeGreaterThanOrEqual(45);
      expect(script.camera.fieldOfView).toBeLessThanOrEqual(90);
      expect(script.camera.position[1]).toBeGreaterThanOrEqual(0.4);
      expect(script.camera.position[1]).toBeLessThanOrEqual(2.4);
      const places = worldPositions(performances[0].motion);
      let outside = 0;
      for (let i = 0; i < places.length; i += 3) {
        const [x, y, depth] = project(camera, places[i], places[i + 1], places[i + 2]);
        if (depth <= 0 || x < 0 || y < 0 || x > camera.width || y > camera.height) outside++;
      }
      expect(outside / (places.length / 3)).toBeLessThan(0.01);
    }
  });
});
