import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { worldPositions } from '@merry-shadow/core/motion/motion';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';
import { soleTrack, solePoints } from '@merry-shadow/core/ground/floor';
import { readTruth } from '@merry-shadow/core/measure/truth';
import { interpolateKeys, smoothSamples } from './choreography/keys';
import { readScript } from './choreography/script';
import { meshShapes } from './body/surface';
import { FrameRenderer } from './render/frame';
import { setStage } from './stage';
import { truthOf } from './truth';

const demo = (name: string): string => readFileSync(join('demo/choreography', `${name}.json`), 'utf8');

describe('choreography scripts', () => {
  it('get defaults for all that is left out', () => {
    const script = readScript('{"name":"a","seconds":1,"performers":[{}]}');
    expect(script.size).toEqual([960, 540]);
    expect(script.performers[0].body.height).toBe(1.75);
  });

  it.each([
    ['{', 'not valid JSON'],
    ['{"name":"A B","seconds":1,"performers":[{}]}', 'name: a name is made of'],
    ['{"name":"a","seconds":-1,"performers":[{}]}', 'seconds'],
    ['{"name":"a","seconds":1,"performers":[]}', 'performers'],
    [
      '{"name":"a","seconds":1,"performers":[{"look":{"shirt":"red"}}]}',
      'performers.0.look.shirt: a colour is written #rrggbb',
    ],
  ])('say what is wrong with %s', (text, message) => expect(() => readScript(text)).toThrow(message));
});

describe('keys', () => {
  it('are met exactly and never overshot', () => {
    const [times, values] = [
      [0, 1, 2, 4],
      [0, 10, 10, 3],
    ];
    times.forEach((t, i) => expect(interpolateKeys(times, values, t)).toBeCloseTo(values[i], 9));
    for (let t = 0; t <= 4; t += 0.05) {
      expect(interpolateKeys(times, values, t)).toBeLessThanOrEqual(10 + 1e-9);
      expect(interpolateKeys(times, values, t)).toBeGreaterThanOrEqual(-1e-9);
    }
    expect(interpolateKeys(times, values, 1.5)).toBe(10);
  });

  it('smoothing keeps a constant', () => {
    expect([...smoothSamples(new Float64Array(9).fill(4), 2)].every((v) => Math.abs(v - 4) < 1e-12)).toBe(true);
  });
});

describe.each(['flag-signals', 'walk-the-planks'])('the performance %s', (name) => {
  const stage = setStage(readScript(demo(name)));
  const [{ motion, contacts }] = stage.performances;

  it('keeps planted feet exactly still and on the floor', () => {
    const points = solePoints(motion);
    const track = soleTrack(motion, points);
    // The foot rolls about the ball, so the ball is what must rest.
    for (const side of ['left', 'right'] as const) {
      const ball = jointIndex(motion.skeleton, `${side}Toes`);
      const places = worldPositions(motion);
      const stride = motion.skeleton.joints.length * 3;
      let checked = 0;
      for (let f = 1; f < motion.frames; f++) {
        if (!contacts[`${side}Toe`][f] || !contacts[`${side}Toe`][f - 1]) continue;
        const d = [0, 1, 2].map((k) => places[f * stride + ball * 3 + k] - places[(f - 1) * stride + ball * 3 + k]);
        expect(Math.hypot(...d)).toBeLessThan(0.0005);
        checked++;
      }
      expect(checked).toBeGreaterThan(60);
    }
    let low = Infinity;
    for (let i = 1; i < track.length; i += 3) low = Math.min(low, track[i]);
    expect(low).toBeGreaterThan(-0.012);
  });

  it('moves without jumps: nothing is faster than a flag tip, 7.5 m/s', () => {
    const places = worldPositions(motion);
    const stride = motion.skeleton.joints.length * 3;
    for (let i = stride; i < places.length; i += 3)
      expect(
        Math.hypot(
          places[i] - places[i - stride],
          places[i + 1] - places[i + 1 - stride],
          places[i + 2] - places[i + 2 - stride],
        ),
      ).toBeLessThan(7.5 / motion.rate);
  });

  it('is the truth that lies beside the demo clip', () => {
    const stored = readTruth(readFileSync(join('demo/clips', `${name}.truth.json`), 'utf8'));
    const now = truthOf(stage, 0);
    expect(now.joints).toEqual(stored.joints);
    expect(now.contacts).toEqual(stored.contacts);
    for (const f of [0, 100, stored.frames - 1])
      now.positions[f].forEach((value, i) => expect(Math.abs(value - stored.positions[f][i])).toBeLessThan(1e-4));
  });
});

describe('drawing', () => {
  it('meshes a ball with a closed surface of its radius', () => {
    const mesh = meshShapes(
      [{ kind: 'ellipsoid', a: [0, 0, 0], b: [0.1, 0.1, 0.1], material: 2, bone: 'hips', blend: 0.01 }],
      0.01,
    );
    for (let i = 0; i < mesh.positions.length; i += 3) {
      const p = mesh.positions.subarray(i, i + 3);
      expect(Math.hypot(...p)).toBeCloseTo(0.1, 2);
      expect(p[0] * mesh.normals[i] + p[1] * mesh.normals[i + 1] + p[2] * mesh.normals[i + 2]).toBeGreaterThan(0.09);
    }
    const edges = new Map<string, number>();
    for (let t = 0; t < mesh.triangles.length; t += 3)
      for (let k = 0; k < 3; k++) {
        const [a, b] = [mesh.triangles[t + k], mesh.triangles[t + ((k + 1) % 3)]];
        const key = a < b ? `${a} ${b}` : `${b} ${a}`;
        edges.set(key, (edges.get(key) ?? 0) + 1);
      }
    expect([...edges.values()].every((count) => count === 2)).toBe(true);
  });

  it('draws the same frame bit by bit, in any order', () => {
    const script = readScript(JSON.stringify({ ...JSON.parse(demo('flag-signals')), size: [192, 108], seconds: 2 }));
    const hash = (frames: number[]): string[] => {
      const stage = setStage(script);
      const renderer = new FrameRenderer(stage.script, stage.cameras, stage.performances);
      return frames.map((frame) => createHash('sha256').update(renderer.draw(frame)).digest('hex'));
    };
    const [a, b] = hash([3, 30]);
    expect(hash([30, 3])).toEqual([b, a]);
    expect(a).not.toBe(b);
  });
});
