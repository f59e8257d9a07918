import { quat } from 'gl-matrix';
import { observeMotion } from '../../../test/observe-motion';
import { lookAt } from '../../camera/pinhole';
import { lowestSole, solePoints, soleTrack } from '../../ground/floor';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { copyMotion, restMotion, worldPositions, writeRotation, type Motion } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import type { BodyObservations } from '../../observe/body';
import { BodyModel } from './body-model';
import { findContacts } from '../floor/contacts';
import { fitTake } from './fit-take';
import { FIT_WEIGHTS } from './evidence';
import { agilities } from './agility';
import { levelFloor } from '../floor/floor-plane';
import { prepareHinges, restoreLimbs } from './hinges';

const HEIGHT = 1.7;
const skeleton = humanoidSkeleton(averageProportions(HEIGHT));
const joint = (name: string): number => jointIndex(skeleton, name);

/** Somebody who waves and bends a knee. */
function waving(frames = 40): Motion {
  const motion = restMotion(skeleton, frames, 30);
  for (let f = 0; f < frames; f++) {
    const t = f / 30;
    writeRotation(motion, joint('leftUpperArm'), f, quat.fromEuler(quat.create(), 10, -20, 30 * Math.sin(3 * t)));
    writeRotation(motion, joint('leftLowerArm'), f, quat.fromEuler(quat.create(), 0, -40 - 20 * Math.sin(3 * t), 0));
    writeRotation(motion, joint('rightLowerArm'), f, quat.fromEuler(quat.create(), 0, 30, 0));
    for (const side of ['left', 'right']) {
      const bend = 20 + 10 * Math.sin(2 * t);
      writeRotation(motion, joint(`${side}UpperLeg`), f, quat.fromEuler(quat.create(), -bend / 2, 0, 0));
      writeRotation(motion, joint(`${side}LowerLeg`), f, quat.fromEuler(quat.create(), bend, 0, 0));
      writeRotation(motion, joint(`${side}Foot`), f, quat.fromEuler(quat.create(), -bend / 2, 0, 0));
    }
  }
  return motion;
}

describe('the body model', () => {
  it('has jacobians that agree with small moves', () => {
    const motion = waving(3);
    const model = new BodyModel(motion, HEIGHT);
    model.evaluate(1);
    const before = model.places.slice();
    const jacobians = model.jacobians.map((jacobian) => jacobian.slice());
    model.unknowns.forEach((_, u) => {
      const moved = copyMotion(motion);
      const other = new BodyModel(moved, HEIGHT);
      const step = new Float64Array(model.unknowns.length);
      step[u] = 0.01;
      other.move(1, step, 0);
      other.evaluate(1);
      model.points.forEach((point, p) => {
        const i = point.unknowns.indexOf(u);
        for (let k = 0; k < 3; k++)
          expect(
            Math.abs((other.places[p * 3 + k] - before[p * 3 + k]) / 0.01 - (i < 0 ? 0 : jacobians[p][i * 3 + k])),
          ).toBeLessThan(0.012);
      });
    });
  });
});

describe('hinges', () => {
  it('keep what is a hinge, and give back twist and gaze', () => {
    const motion = waving();
    for (let f = 0; f < motion.frames; f++) {
      writeRotation(motion, joint('rightLowerArm'), f, quat.fromEuler(quat.create(), 25, 30, 0));
      writeRotation(motion, joint('head'), f, quat.fromEuler(quat.create(), 10, 20, 0));
    }
    const prepared = prepareHinges(motion);
    restoreLimbs(prepared);
    const [a, b] = [worldPositions(prepared.motion), worldPositions(motion)];
    for (let i = 0; i < a.length; i++) expect(Math.abs(a[i] - b[i])).toBeLessThan(0.06);
    const forearm = prepared.motion.rotations.subarray(joint('leftLowerArm') * 160, joint('leftLowerArm') * 160 + 4);
    expect(Math.abs(forearm[0]) + Math.abs(forearm[2])).toBeLessThan(1e-6);
  });
});

/** Heights of hips that fall freely, metres. */
const falling = (frames: number): Float64Array =>
  Float64Array.from({ length: frames }, (_, f) => 9 - 4.9 * (f / 30) ** 2);

describe('contacts', () => {
  it('are found with hysteresis where a sole is low and slow, for four frames at least', () => {
    const frames = 40;
    const track = new Float64Array(frames * 3);
    // Rests until 14, flies, rests again from 25; one slow low moment of two frames in between.
    for (let f = 0; f < frames; f++) {
      const flying = f >= 15 && f < 25;
      track[f * 3] = flying ? (f - 14) * 0.05 : f < 15 ? 0 : 0.55;
      track[f * 3 + 1] = flying ? 0.15 : 0.01;
    }
    const still = {
      picture: null,
      soles: 1,
      frames,
      rate: 30,
      view: [0, 0, -1],
      slack: 1,
      hips: new Float64Array(frames).fill(0.9),
    };
    const [rest] = findContacts({ ...still, track });
    expect([0, 10, 30, 39].map((f) => rest[f])).toEqual([1, 1, 1, 1]);
    expect([16, 20, 23].map((f) => rest[f])).toEqual([0, 0, 0]);
    // Its ends are uncertain, and only they.
    const uncertain = Array.from(rest).flatMap((value, f) => (value > 0 && value < 1 ? [f] : []));
    expect(uncertain.length).toBeGreaterThan(0);
    for (const f of uncertain) expect(Math.min(Math.abs(f - 14), Math.abs(f - 25))).toBeLessThan(5);
    expect(Math.max(...rest)).toBe(1);
    // One wrong frame makes no gap.
    track[31 * 3 + 1] = 0.2;
    expect(findContacts({ ...still, track })[0][31]).toBeGreaterThan(0);
  });

  it('leave nobody in the air whose hips do not fall', () => {
    const frames = 40;
    const track = new Float64Array(frames * 6);
    // Both soles seem to run and to lift a little in the middle; the second one less.
    for (let f = 0; f < frames; f++)
      for (const s of [0, 1]) {
        const quick = f >= 15 && f < 25 ? 1 - 0.4 * s : 0;
        track[(f * 2 + s) * 3] = quick * (f - 15) * 0.012;
        track[(f * 2 + s) * 3 + 1] = quick * 0.08;
      }
    const evidence = { track, picture: null, soles: 2, frames, rate: 30, view: [0, 0, -1], slack: 1 };
    const standing = findContacts({ ...evidence, hips: new Float64Array(frames).fill(0.9) });
    const leaping = findContacts({ ...evidence, hips: falling(frames) });
    expect(standing[1][20]).toBeGreaterThan(0);
    expect(leaping[0][20] + leaping[1][20]).toBe(0);
  });

  it('are told by the picture where depth is not: a sole that stays at one place of it rests', () => {
    const frames = 40;
    const track = new Float64Array(frames * 3);
    // In depth it seems to run throughout; the picture says that it stands until 20 and swings after.
    for (let f = 0; f < frames; f++) track[f * 3 + 2] = f * 0.06;
    const picture = [
      {
        speed: Float64Array.from({ length: frames }, (_, f) => (f < 20 ? 0.02 : 1.5)),
        uneven: new Float64Array(frames).fill(0.05),
      },
    ];
    const still = {
      track,
      soles: 1,
      frames,
      rate: 30,
      view: [0, 0, -1],
      slack: 1,
      hips: falling(frames),
    };
    const [blind] = findContacts({ ...still, picture: null });
    const [rest] = findContacts({ ...still, picture });
    expect(blind[10]).toBe(0);
    expect(rest[10]).toBe(1);
    expect(rest[32]).toBe(0);
  });
});

/** Somebody who rests, comes nearer over a floor that seems to rise, and rests again. */
function uphill(): Motion {
  const motion = restMotion(skeleton, 90, 30);
  for (let f = 0; f < 90; f++) {
    const z = f < 30 ? 0 : f < 60 ? (f - 30) / 20 : 1.5;
    motion.root[f * 3 + 1] += 0.3 + z * 0.1;
    motion.root[f * 3 + 2] = z;
  }
  return motion;
}

describe('the floor', () => {
  it('is levelled by feet that rest at different depths, with the camera', () => {
    const motion = uphill();
    const camera = levelFloor(motion, lookAt([0, 1.3, 5], [0, 1, 0], 50, 960, 540));
    const points = solePoints(motion);
    const track = soleTrack(motion, points);
    for (const f of [5, 25, 70, 85])
      for (let p = 0; p < points.length; p++)
        expect(Math.abs(track[(f * points.length + p) * 3 + 1])).toBeLessThan(0.035);
    expect(camera.position[1]).toBeLessThan(1);
  });

  it('is lifted alone where the tilt was given, however the feet rest', () => {
    const motion = uphill();
    const before = lookAt([0, 1.3, 5], [0, 1, 0], 50, 960, 540);
    const after = levelFloor(motion, before, false);
    after.axes.forEach((value, i) => expect(value).toBeCloseTo(before.axes[i], 9));
    expect(after.position[1]).toBeLessThan(before.position[1] - 0.25);
    const track = soleTrack(motion);
    const [first, last] = [track[1], track[89 * solePoints(motion).length * 3 + 1]];
    expect(last - first).toBeCloseTo(0.15, 2);
  });

  it('is what lies lowest, however long somebody stands on a thing', () => {
    const motion = restMotion(skeleton, 120, 30);
    for (let f = 0; f < 120; f++) {
      motion.root[f * 3 + 1] += 0.2 + 0.5 * Math.min(1, Math.max(0, (f - 25) / 15));
      motion.root[f * 3 + 2] = 0.4 * Math.min(1, Math.max(0, (f - 25) / 15));
    }
    levelFloor(motion, lookAt([0, 1.3, 5], [0, 1, 0], 50, 960, 540));
    const low = lowestSole(motion);
    expect(Math.abs(low[10])).toBeLessThan(0.02);
    expect(Math.abs(low[100] - 0.5)).toBeLessThan(0.03);
  });

  it('keeps the tilt of a take on the spot', () => {
    const motion = restMotion(skeleton, 30, 30);
    const before = lookAt([0, 1.3, 5], [0, 1, 0], 50, 960, 540);
    const after = levelFloor(motion, before);
    after.axes.forEach((value, i) => expect(Math.abs(value - before.axes[i])).toBeLessThan(1e-3));
  });
});

describe('the fit', () => {
  const camera = lookAt([0.2, 1.3, 4], [0, 0.9, 0], 55, 1280, 720);
  const truth = waving();
  const told = (observations: BodyObservations) => ({ observations, agilities: agilities(observations, 1) });
  const evidence = {
    ...told(observeMotion(truth, camera, HEIGHT)),
    camera,
    scale: 1,
    height: HEIGHT,
    contacts: null,
    slack: 1,
    damping: 2,
    weights: FIT_WEIGHTS,
  };
  const apart = (a: Motion, b: Motion, names: string[]): number => {
    const [p, q] = [worldPositions(a), worldPositions(b)];
    const stride = skeleton.joints.length * 3;
    let sum = 0;
    for (const name of names)
      for (let f = 0; f < a.frames; f++)
        sum += Math.hypot(
          ...[0, 1, 2].map((k) => p[f * stride + joint(name) * 3 + k] - q[f * stride + joint(name) * 3 + k]),
        );
    return sum / names.length / a.frames;
  };
  const LIMBS = ['leftLowerArm', 'leftHand', 'rightHand', 'leftLowerLeg', 'rightFoot'];

  it('brings a disturbed motion back to the marks', () => {
    const motion = copyMotion(truth);
    for (let f = 0; f < motion.frames; f++) {
      motion.root[f * 3] += 0.1;
      motion.root[f * 3 + 2] -= 0.2;
      writeRotation(motion, joint('leftUpperArm'), f, [0, 0, 0, 1]);
      writeRotation(motion, joint('rightUpperLeg'), f, [0, 0, 0, 1]);
    }
    const before = apart(motion, truth, LIMBS);
    fitTake(motion, evidence, 10);
    expect(before).toBeGreaterThan(0.15);
    expect(apart(motion, truth, LIMBS)).toBeLessThan(0.04);
  });

  it('does not let the pelvis pitch from frame to frame, which no mark tells', () => {
    const motion = copyMotion(truth);
    // The pelvis of one frame leans by half a radian, and the spine back by as much.
    const lean = 0.25;
    writeRotation(motion, joint('hips'), 20, [Math.sin(lean), 0, 0, Math.cos(lean)]);
    writeRotation(motion, joint('spine'), 20, [-Math.sin(lean), 0, 0, Math.cos(lean)]);
    fitTake(motion, evidence, 8);
    const pitch = (name: string, f: number): number => motion.rotations[(joint(name) * motion.frames + f) * 4];
    for (const name of ['hips', 'spine'])
      expect(Math.abs(pitch(name, 20) - (pitch(name, 19) + pitch(name, 21)) / 2)).toBeLessThan(0.02);
  });

  it('does not follow a mark that jumps for one frame', () => {
    const marks = evidence.observations.marks.slice();
    const wrist = (20 * 33 + 15) * 3;
    marks[wrist] += 150;
    const [calm, jumped] = [copyMotion(truth), copyMotion(truth)];
    fitTake(calm, evidence, 5);
    fitTake(jumped, { ...evidence, ...told({ ...evidence.observations, marks }) }, 5);
    expect(apart(calm, jumped, ['leftHand'])).toBeLessThan(0.02);
  });

  it('in windows comes to the same as in one, without a seam', () => {
    const long = waving(240);
    const seen = { ...evidence, ...told(observeMotion(long, camera, HEIGHT)) };
    const [whole, parts] = [copyMotion(long), copyMotion(long)];
    for (const motion of [whole, parts]) for (let f = 0; f < 240; f++) motion.root[f * 3] += 0.05;
    fitTake(whole, seen, 6);
    fitTake(parts, seen, 6, 110);
    expect(apart(whole, parts, LIMBS)).toBeLessThan(0.002);
    const places = worldPositions(parts);
    const stride = skeleton.joints.length * 3;
    const jolt = (f: number): number =>
      Math.hypot(
        ...[0, 1, 2].map(
          (k) => places[(f + 1) * stride + k] - 2 * places[f * stride + k] + places[(f - 1) * stride + k],
        ),
      );
    const usual = Math.max(...[20, 30, 40, 90, 130, 170].map(jolt));
    for (const seam of [50, 51, 52, 100, 101, 102]) expect(jolt(seam)).toBeLessThan(usual * 2 + 0.0005);
  });

  it('holds a sole where it rests', () => {
    const motion = copyMotion(truth);
    const contacts = Array.from({ length: 4 }, () => new Float64Array(motion.frames).fill(1));
    const seen = told({
      ...evidence.observations,
      marks: evidence.observations.marks.map((value, i) => (i % 3 < 2 ? value + 3 * Math.sin(i * 12.9898) : value)),
    });
    const loose = copyMotion(truth);
    fitTake(loose, { ...evidence, ...seen }, 5);
    fitTake(motion, { ...evidence, ...seen, contacts }, 5);
    const slide = (m: Motion): number => {
      const track = soleTrack(m, solePoints(m));
      let sum = 0;
      for (let i = 12; i < track.length; i++) sum += Math.abs(track[i] - track[i - 12]);
      return sum / track.length;
    };
    expect(slide(motion)).toBeLessThan(slide(loose) / 3);
    expect(slide(motion)).toBeLessThan(0.0006);
  });

  it('keeps the body above the floor, where there is one', () => {
    const sunken = copyMotion(truth);
    for (let f = 0; f < sunken.frames; f++) sunken.root[f * 3 + 1] -= 0.15;
    const deep = { ...evidence, ...told(observeMotion(sunken, camera, HEIGHT)) };
    const [free, borne] = [copyMotion(sunken), copyMotion(sunken)];
    fitTake(free, deep, 5);
    fitTake(borne, { ...deep, contacts: Array.from({ length: 4 }, () => new Float64Array(sunken.frames)) }, 5);
    const deepest = (m: Motion): number => Math.min(...lowestSole(m));
    expect(deepest(free)).toBeLessThan(-0.12);
    expect(deepest(borne)).toBeGreaterThan(0.6 * deepest(free));
  });
});
