import { mat3, quat, vec3 } from 'gl-matrix';
import { describe, expect, it } from '@jest/globals';
import { rotation, cameraMotionFocal, cameraMotionOf } from '../camera/camera-motion';
import { MARK_COUNT, type BodyObservations } from './body';
import { emptyObservations, type Observations } from './observations';
import { cameraTurns, untoldShare, widestTurn, withSteadyView } from './steady-view';

const FRAMES = 12;
const WIDTH = 960;
const HEIGHT = 540;
const FOCAL = cameraMotionFocal(WIDTH, HEIGHT);

/** Directions of a few marks that stand still in the room: x right, y down, z ahead. */
const PLACES: readonly vec3[] = Array.from({ length: MARK_COUNT }, (_, i) => [
  (i % 7) * 0.05 - 0.15,
  (i % 5) * 0.06 - 0.12,
  1,
]);

/** A room that stands still, seen by a camera that is turned by a course of rotations. */
function seenBy(course: readonly mat3[]): Observations {
  const out = emptyObservations(course.length, 30, WIDTH, HEIGHT, { hands: true, face: true });
  course.forEach((turn, f) => {
    out.presence[f] = 1;
    if (f > 0) {
      const step = mat3.multiply(mat3.create(), turn, mat3.transpose(mat3.create(), course[f - 1]));
      out.cameraMotion.set(cameraMotionOf(step, FOCAL), f * 4);
    }
    PLACES.forEach((place, i) => {
      const [x, y, z] = vec3.transformMat3([0, 0, 0], place, turn);
      const at = (f * MARK_COUNT + i) * 3;
      out.marks.set([WIDTH / 2 + (FOCAL * x) / z, HEIGHT / 2 + (FOCAL * y) / z, 1], at);
      out.world.set([x, -y, -z], at);
    });
    const inCamera = quat.fromMat3([0, 0, 0, 1], turn);
    out.face?.turn.set([inCamera[0], -inCamera[1], -inCamera[2], inCamera[3]], f * 4);
    out.face?.marks.fill(NaN, f * 468 * 3, (f + 1) * 468 * 3);
  });
  return out;
}

/** Greatest distance between a mark's places in the frames of a take. */
function strays({ marks, frames }: Observations): number {
  let most = 0;
  for (let i = 0; i < MARK_COUNT; i++) {
    for (let f = 1; f < frames; f++) {
      const [a, b] = [i * 3, (f * MARK_COUNT + i) * 3];
      most = Math.max(most, Math.hypot(marks[a] - marks[b], marks[a + 1] - marks[b + 1]));
    }
  }
  return most;
}

const unsteady = Array.from({ length: FRAMES }, (_, f) =>
  rotation(0.05 * Math.sin(f * 0.8), 0.03 * Math.sin(f * 1.3 + 1), 0.04 * Math.sin(f * 0.6)),
);

const steadied = <T extends Observations | BodyObservations>(seen: T): T =>
  withSteadyView(seen, cameraTurns(seen, FOCAL), FOCAL);

describe('a steady view', () => {
  it('holds still what stood still before a camera that was turned', () => {
    const seen = seenBy(unsteady);
    expect(strays(seen)).toBeGreaterThan(50);
    const steady = steadied(seen);
    expect(strays(steady)).toBeLessThan(0.2);
    // Points and the head's turn go along with the marks.
    for (let f = 1; f < FRAMES; f++) {
      for (let k = 0; k < MARK_COUNT * 3; k++)
        expect(steady.world[f * MARK_COUNT * 3 + k]).toBeCloseTo(steady.world[k], 3);
      for (let k = 0; k < 4; k++) expect(steady.face?.turn[f * 4 + k]).toBeCloseTo(steady.face?.turn[k] ?? NaN, 3);
    }
  });

  it('tells how far things lie before the steady camera', () => {
    // The marks' places are directions one metre ahead of the camera as it looks on average; depth is told along its own axis.
    const seen = seenBy(unsteady);
    const depth = new Float32Array(FRAMES * MARK_COUNT).fill(NaN);
    unsteady.forEach((turn, f) =>
      PLACES.forEach((place, i) => (depth[f * MARK_COUNT + i] = vec3.transformMat3([0, 0, 0], place, turn)[2] * 3)),
    );
    const steady = steadied({ ...seen, depth });
    const off = (values: Float32Array): number =>
      Math.max(...Array.from(values, (value, i) => Math.abs(value - values[i % MARK_COUNT])));
    expect(off(depth)).toBeGreaterThan(0.03);
    expect(off(steady.depth ?? depth)).toBeLessThan(0.003);
  });

  it('looks where the camera looked on average', () => {
    const turns = cameraTurns(seenBy(unsteady), FOCAL) ?? [];
    const mean: vec3 = [0, 0, 0];
    for (const { back } of turns) vec3.add(mean, mean, [back[6], back[7], back[8]]);
    expect(Math.hypot(mean[0], mean[1]) / FRAMES).toBeLessThan(1e-3);
    expect(widestTurn(turns)).toBeGreaterThan(0.05);
    expect(widestTurn(turns)).toBeLessThan(0.1);
  });

  it('follows a pan with a lens other than the one that camera motion is told with', () => {
    // A camera of twice the assumed focal length turns by half the angle for the same movement of the picture.
    const seen = seenBy(Array.from({ length: FRAMES }, (_, f) => rotation((f * 20) / FOCAL, 0, 0)));
    const turns = cameraTurns(seen, FOCAL * 2) ?? [];
    const turned = Math.asin(turns[0].back[6]) - Math.asin(turns[FRAMES - 1].back[6]);
    expect(turned).toBeGreaterThan((11 * 20) / FOCAL / 2);
    expect(turned).toBeLessThan(((11 * 20) / FOCAL / 2) * 1.2);
  });

  it('leaves a take alone whose camera stood, and one of which nothing is known', () => {
    const still = seenBy(Array.from({ length: FRAMES }, () => mat3.create()));
    for (let f = 0; f < FRAMES; f++) still.cameraMotion.set([0.3 * (-1) ** f, 0.1, 1e-5, -1e-5], f * 4);
    expect(steadied(still)).toBe(still);
    expect(widestTurn(cameraTurns(still, FOCAL))).toBe(0);
    const unknown: BodyObservations = { ...seenBy(unsteady), cameraMotion: undefined };
    expect(steadied(unknown)).toBe(unknown);
  });

  it('passes over frames whose movement is not known', () => {
    const seen = seenBy(unsteady);
    seen.cameraMotion.fill(NaN, 5 * 4, 6 * 4);
    expect(steadied(seen).marks.every(Number.isFinite)).toBe(true);
  });

  it('takes a lens that draws nearer for what it is', () => {
    const seen = seenBy(Array.from({ length: FRAMES }, () => mat3.create()));
    for (let f = 1; f < FRAMES; f++) {
      seen.cameraMotion[f * 4 + 3] = 0.01;
      for (let i = 0; i < MARK_COUNT; i++) {
        const at = (f * MARK_COUNT + i) * 3;
        for (const [k, middle] of [WIDTH / 2, HEIGHT / 2].entries())
          seen.marks[at + k] = middle + (seen.marks[at + k] - middle) * Math.exp(0.01 * f);
      }
    }
    expect(strays(seen)).toBeGreaterThan(10);
    expect(strays(steadied(seen))).toBeLessThan(0.1);
  });

  it('is taken to stand still where nothing told how it moved, and how often that was is known', () => {
    const seen = seenBy(Array.from({ length: FRAMES }, () => mat3.create()));
    seen.cameraMotion.fill(NaN, 4, 4 * 10);
    expect(cameraTurns(seen, FOCAL)).toBeNull();
    expect(untoldShare(seen)).toBeCloseTo(9 / FRAMES, 9);
    expect(untoldShare({ frames: FRAMES })).toBe(1);
  });
});
