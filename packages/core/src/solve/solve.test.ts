import { lowestSole } from '../ground/floor';
import { median } from '../signal/joint-columns';
import { mat3, quat, vec3 } from 'gl-matrix';
import { observeMotion, solveMade } from '../../test/observe-motion';
import { lookAt } from '../camera/pinhole';
import { rotation, cameraMotionOf } from '../camera/camera-motion';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { restMotion, worldPositions, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { alignPoints, applyAlignment, meanDistance } from '../motion/align-points';
import { emptyBodyObservations, MARK, MARK_COUNT, type BodyObservations } from '../observe/body';
import { markDepth } from './body/joint-offsets';
import { measureBody } from './body/proportions';
import { refitAround } from './refit';
import { PLACING } from './start/root-path';
import { SolveError, type SolveOptions } from './solve-take';

const HEIGHT = 1.74;
const camera = lookAt([0.3, 1.4, 4.5], [0, 0.9, 0], 50, 1280, 720);

/** Arms that wave, a knee that lifts, hips that travel a metre; the legs lean ahead a little, as those of people do who stand. */
function performance(frames = 60): Motion {
  const motion = restMotion(humanoidSkeleton(averageProportions(HEIGHT)), frames, 30);
  const joint = (name: string): number => jointIndex(motion.skeleton, name);
  for (let f = 0; f < frames; f++) {
    const t = f / 30;
    writeRotation(motion, joint('leftUpperArm'), f, quat.fromEuler(quat.create(), 0, -20, 40 * Math.sin(3 * t)));
    writeRotation(motion, joint('leftLowerArm'), f, quat.fromEuler(quat.create(), 0, -60 - 20 * Math.sin(4 * t), 0));
    writeRotation(motion, joint('rightUpperArm'), f, quat.fromEuler(quat.create(), 0, 15, 50));
    const lift = 35 * Math.max(0, Math.sin(2 * t)) ** 2;
    writeRotation(motion, joint('rightUpperLeg'), f, quat.fromEuler(quat.create(), -lift, 0, 0));
    writeRotation(motion, joint('rightLowerLeg'), f, quat.fromEuler(quat.create(), 1.6 * lift, 0, 0));
    motion.root[f * 3] = 0.5 * Math.sin(t);
    const LEAN = 3.15;
    for (const [name, turn] of [
      ['hips', LEAN],
      ['spine', -LEAN],
      ['leftFoot', -LEAN],
      ['rightFoot', -LEAN],
    ] as const)
      writeRotation(motion, joint(name), f, quat.fromEuler(quat.create(), turn, 0, 0));
  }
  return motion;
}

describe('measuring a body', () => {
  it('finds the lengths of a body of known height', () => {
    const { proportions: p, heightEstimated } = measureBody(observeMotion(performance(), camera, HEIGHT), HEIGHT);
    const real = averageProportions(HEIGHT);
    expect(heightEstimated).toBe(false);
    for (const key of ['thigh', 'shin', 'upperArm', 'foreArm', 'shoulderHalf', 'hipHalf'] as const)
      expect(Math.abs(p[key] - real[key])).toBeLessThan(0.012);
  });

  it("draws unusual arms most of the way to an average body's, legs little with them", () => {
    const average = averageProportions(HEIGHT);
    const long = { ...average, upperArm: average.upperArm * 1.15, foreArm: average.foreArm * 1.15 };
    const moves = performance();
    const { proportions: usual } = measureBody(observeMotion(moves, camera, HEIGHT), HEIGHT);
    const { proportions: p } = measureBody(
      observeMotion({ ...moves, skeleton: humanoidSkeleton(long) }, camera, HEIGHT),
      HEIGHT,
    );
    for (const bone of ['upperArm', 'foreArm'] as const) {
      const told = (p[bone] - usual[bone]) / (long[bone] - average[bone]);
      expect(told).toBeGreaterThan(0.1);
      expect(told).toBeLessThan(0.35);
    }
    // Who has long arms has legs a little longer than others.
    for (const bone of ['thigh', 'shin'] as const) expect(p[bone] / usual[bone]).toBeGreaterThan(1);
    for (const bone of ['thigh', 'shin'] as const) expect(p[bone] / usual[bone]).toBeLessThan(1.015);
  });

  it("estimates the height from the network's metres", () => {
    const { proportions, heightEstimated } = measureBody(observeMotion(performance(), camera, HEIGHT));
    expect(heightEstimated).toBe(true);
    expect(Math.abs(proportions.height - HEIGHT)).toBeLessThan(0.03);
  });
});

describe('solving a take', () => {
  const motion = performance();
  const observations = observeMotion(motion, camera, HEIGHT);

  it('brings back what a perfect tracker saw', () => {
    const solved = solveMade(observations, { height: HEIGHT, fieldOfView: 50, smooth: false });
    const [a, b] = [worldPositions(solved.motion), worldPositions(motion)];
    expect(meanDistance(applyAlignment(alignPoints(a, b, false), a), b)).toBeLessThan(0.03);
  });

  it('stands upright on the floor, starts over the origin, and keeps its bones', () => {
    const { motion: out, camera: shot } = solveMade(observations, { height: HEIGHT, fieldOfView: 50 });
    expect(Math.abs(out.root[0])).toBeLessThan(0.02);
    expect(Math.abs(out.root[2])).toBeLessThan(0.02);
    const places = worldPositions(out);
    const { joints } = out.skeleton;
    const head = jointIndex(out.skeleton, 'head') * 3;
    expect(places[head + 1]).toBeGreaterThan(1.4);
    const lowest = lowestSole(out);
    expect(Math.min(...lowest)).toBeGreaterThan(-0.02);
    expect(median(lowest)).toBeLessThan(0.02);
    // Every bone is as long in each frame as in the rest pose.
    for (let frame = 0; frame < out.frames; frame++)
      joints.forEach(({ parent, offset }, joint) => {
        if (parent < 0) return;
        const [a, b] = [joint, parent].map((index) => (frame * joints.length + index) * 3);
        const length = Math.hypot(...[0, 1, 2].map((k) => places[a + k] - places[b + k]));
        expect(Math.abs(length - Math.hypot(...offset))).toBeLessThan(1e-5);
      });
    expect(Math.abs(shot.position[1] - 1.4)).toBeLessThan(0.12);
    expect(Math.abs(shot.position[2] - 4.5)).toBeLessThan(0.25);
  });

  it('bridges a gap and says so', () => {
    const holed = { ...observations, presence: observations.presence.slice(), marks: observations.marks.slice() };
    holed.presence.fill(0, 20, 30);
    holed.marks.fill(NaN, 20 * 99, 30 * 99);
    const { bridged, motion: out } = solveMade(holed, { height: HEIGHT, fieldOfView: 50 });
    expect(Array.from(bridged).reduce((sum, flag) => sum + flag, 0)).toBe(10);
    expect(bridged[19]).toBe(0);
    expect(bridged[20]).toBe(1);
    expect(out.rotations.every(Number.isFinite)).toBe(true);
  });

  it.each([
    [0, 1],
    [20, 21],
    [35, 44],
  ])('is as good as ever where somebody is seen, though frames %i to %i show nobody', (from, until) => {
    const seen = observeMotion(performance(), camera, HEIGHT);
    const [marks, world, presence] = [seen.marks.slice(), seen.world.slice(), seen.presence.slice()];
    // The network tells depth wrong, which the fit makes good by and large.
    for (let i = 2; i < world.length; i += 3) world[i] *= 0.8 + 0.3 * Math.sin(i / 700);
    const whole = solveMade({ ...seen, world: world.slice() }, { height: HEIGHT, fieldOfView: 50 });
    presence.fill(0, from, until);
    for (const column of [marks, world]) column.fill(NaN, from * MARK_COUNT * 3, until * MARK_COUNT * 3);
    const holed = solveMade({ ...seen, marks, world, presence }, { height: HEIGHT, fieldOfView: 50 });
    const [a, b] = [whole, holed].map(({ motion: out }) => worldPositions(out));
    let [sum, count] = [0, 0];
    const stride = a.length / seen.frames;
    for (let frame = 0; frame < seen.frames; frame++) {
      if (frame >= from - 3 && frame < until + 3) continue;
      for (let i = 0; i < stride; i++, count++) sum += Math.abs(a[frame * stride + i] - b[frame * stride + i]);
    }
    expect(sum / count).toBeLessThan(0.003);
  });

  it('takes pictures that a recorder doubled for no moment of their own', () => {
    const seen = observeMotion(performance(), camera, HEIGHT);
    const [marks, world] = [seen.marks.slice(), seen.world.slice()];
    const skipped = new Float32Array(seen.frames);
    const stride = MARK_COUNT * 3;
    // Every fifth picture is the one before once more.
    for (let f = 4; f < seen.frames; f += 5) {
      for (const column of [marks, world]) column.copyWithin(f * stride, (f - 1) * stride, f * stride);
      skipped[f] = 1;
    }
    const doubled = { ...seen, marks, world };
    const told = solveMade({ ...doubled, skipped }, { height: HEIGHT, fieldOfView: 50 });
    const untold = solveMade(doubled, { height: HEIGHT, fieldOfView: 50 });
    expect(Array.from(told.bridged)).toEqual(Array.from(skipped));
    /** How far the left hand is from going on evenly: second differences. */
    const jolt = (motion: Motion): number => {
      const places = worldPositions(motion);
      const hand = jointIndex(motion.skeleton, 'leftHand') * 3;
      const joints = motion.skeleton.joints.length * 3;
      const at = (f: number, k: number): number => places[f * joints + hand + k];
      let sum = 0;
      for (let f = 10; f < 50; f++)
        sum += Math.hypot(...[0, 1, 2].map((k) => at(f + 1, k) - 2 * at(f, k) + at(f - 1, k)));
      return sum;
    };
    expect(jolt(told.motion)).toBeLessThan(jolt(untold.motion));
  });

  it('says how well the floor is told', () => {
    const seen = observeMotion(performance(), camera, HEIGHT);
    const doubt = (options: SolveOptions): number | null =>
      solveMade(seen, { height: HEIGHT, fieldOfView: 50, fit: false, ...options }).floorDoubt;
    expect(doubt({})).toBeGreaterThan(0.005);
    expect(doubt({})).toBeLessThan(0.1);
    expect(doubt({ tilt: 4 })).toBe(0);
    expect(doubt({ manner: 'seated' })).toBeNull();
  });

  it('brings a wrist to the depth that a person tells, and leaves the other one', () => {
    const depthOf = (motion: Motion, name: string, frame: number): number => {
      const all = worldPositions(motion);
      const along = (joint: string): number => {
        const at = (frame * motion.skeleton.joints.length + jointIndex(motion.skeleton, joint)) * 3;
        return [0, 1, 2].reduce((sum, k) => sum + all[at + k] * camera.axes[6 + k], 0);
      };
      return along(name) - (along('leftUpperLeg') + along('rightUpperLeg')) / 2;
    };
    const options = { height: HEIGHT, fieldOfView: 50 };
    const { motion } = solveMade(observations, options);
    const before = depthOf(motion, 'leftHand', 30);
    const hints = [{ mark: 'leftWrist' as const, frame: 30, nearer: before - 0.15 }];
    const told = solveMade(observations, { ...options, hints }).motion;
    expect(depthOf(told, 'leftHand', 30)).toBeLessThan(before - 0.08);
    expect(Math.abs(depthOf(told, 'rightHand', 30) - depthOf(motion, 'rightHand', 30))).toBeLessThan(0.03);
  });

  it('solves the neighbourhood of a changed mark again, and leaves the rest', () => {
    const solved = solveMade(observations, { height: HEIGHT, fieldOfView: 50 });
    const before = solved.motion.rotations.slice();
    const moved = { ...observations, marks: observations.marks.slice() };
    // A person pulls the wrist 60 pixels to the left on three frames.
    for (const f of [29, 30, 31]) moved.marks[(f * MARK_COUNT + MARK.leftWrist) * 3] -= 60;
    const again = refitAround(solved, moved, 29, 32, null);
    const [a, b] = [worldPositions(solved.motion), worldPositions(again)];
    const stride = again.skeleton.joints.length * 3;
    const hand = jointIndex(again.skeleton, 'leftHand') * 3;
    const apart = (f: number): number =>
      Math.hypot(...[0, 1, 2].map((k) => a[f * stride + hand + k] - b[f * stride + hand + k]));
    expect(apart(30)).toBeGreaterThan(0.03);
    // Beyond the neighbourhood nothing is different anywhere, to the bit.
    const reach = Math.round(0.4 * again.rate);
    const [first, end] = [29 - reach, 32 + reach];
    for (let joint = 0; joint < again.skeleton.joints.length; joint++)
      for (let f = 0; f < again.frames; f++) {
        if (f >= first && f < end) continue;
        const at = (joint * again.frames + f) * 4;
        expect(again.rotations.subarray(at, at + 4)).toEqual(before.subarray(at, at + 4));
      }
    for (let f = 0; f < again.frames; f++)
      if (f < first || f >= end)
        expect(again.root.subarray(f * 3, f * 3 + 3)).toEqual(solved.motion.root.subarray(f * 3, f * 3 + 3));
    expect(solved.motion.rotations).toEqual(before);
  });

  it('gives the same bits twice', () => {
    const [a, b] = [solveMade(observations), solveMade(observations)];
    expect(Buffer.compare(Buffer.from(a.motion.rotations.buffer), Buffer.from(b.motion.rotations.buffer))).toBe(0);
  });

  it('says so when nobody was seen', () => {
    expect(() => solveMade(emptyBodyObservations(20, 30, 640, 480))).toThrow(SolveError);
  });
});

describe('a camera that moves', () => {
  const FIELD = 55;
  const shot = lookAt([0.3, 1.4, 4.5], [0, 0.9, 0], FIELD, 1280, 720);
  const still = observeMotion(performance(), shot, HEIGHT);
  const turnAt = (f: number): mat3 =>
    rotation(0.06 * Math.sin(f * 0.15), 0.03 * Math.sin(f * 0.4), 0.02 * Math.sin(f * 0.3));

  /** The same take as a camera sees it that turns in a hand. */
  function handheld(): BodyObservations {
    const out = {
      ...still,
      marks: still.marks.slice(),
      world: still.world.slice(),
      cameraMotion: new Float32Array(still.frames * 4),
    };
    for (let f = 0; f < still.frames; f++) {
      const turn = turnAt(f);
      if (f > 0) {
        const back = mat3.transpose(mat3.create(), turnAt(f - 1));
        out.cameraMotion.set(cameraMotionOf(mat3.multiply(mat3.create(), turn, back), shot.focal), f * 4);
      }
      for (let m = 0; m < MARK_COUNT; m++) {
        const at = (f * MARK_COUNT + m) * 3;
        const ray: vec3 = [(out.marks[at] - 640) / shot.focal, (out.marks[at + 1] - 360) / shot.focal, 1];
        vec3.transformMat3(ray, ray, turn);
        out.marks[at] = 640 + (shot.focal * ray[0]) / ray[2];
        out.marks[at + 1] = 360 + (shot.focal * ray[1]) / ray[2];
        const point: vec3 = [out.world[at], -out.world[at + 1], -out.world[at + 2]];
        vec3.transformMat3(point, point, turn);
        out.world.set([point[0], -point[1], -point[2]], at);
      }
    }
    return out;
  }

  /** Mean distance of the joints of two motions after one rigid alignment, metres. */
  const apart = (a: Motion, b: Motion): number => {
    const [p, q] = [worldPositions(a), worldPositions(b)];
    return meanDistance(applyAlignment(alignPoints(p, q, false), p), q);
  };
  const options = { height: HEIGHT, fieldOfView: FIELD };
  const reference = solveMade(still, options);
  const solved = solveMade(handheld(), options);

  it('gives the motion that a camera on a tripod gives', () => {
    expect(apart(solved.motion, reference.motion)).toBeLessThan(0.01);
    expect(reference.turned).toBe(0);
    expect(solved.turned).toBeGreaterThan(0.05);
    expect(solved.turned).toBeLessThan(0.09);
  });

  it('is left in when that is wanted', () => {
    const left = solveMade(handheld(), { ...options, steady: false });
    expect(left.turned).toBe(0);
    expect(apart(left.motion, reference.motion)).toBeGreaterThan(0.03);
  });

  it('is taken out of the neighbourhood of a change, too', () => {
    const again = refitAround(solved, handheld(), 29, 32, null);
    expect(apart(again, solved.motion)).toBeLessThan(0.005);
  });
});

describe('a depth camera', () => {
  const motion = performance();
  const seen = observeMotion(motion, camera, HEIGHT);
  // Depth as the network tells it, halved, and a body that is taken for a larger one farther away.
  const world = seen.world.map((value, i) => (i % 3 === 2 ? value * 0.5 : value));
  const depth = depthOf(motion);
  const options = { height: HEIGHT, fieldOfView: 50 };
  const error = (observations: BodyObservations, more = {}): number => {
    const own = limbPoints(solveMade(observations, { ...options, ...more }).motion);
    const real = limbPoints(motion);
    return meanDistance(applyAlignment(alignPoints(own, real, false), own), real);
  };

  /** What a depth camera would tell of the surface before each mark, metres. */
  function depthOf(of: Motion): Float32Array {
    const out = new Float32Array(of.frames * MARK_COUNT).fill(NaN);
    const places = worldPositions(of);
    const stride = of.skeleton.joints.length * 3;
    for (const [mark, name] of PLACING) {
      const at = jointIndex(of.skeleton, name) * 3;
      for (let f = 0; f < of.frames; f++) {
        const [x, y, z] = [0, 1, 2].map((k) => places[f * stride + at + k] - camera.position[k]);
        const behind = -(camera.axes[6] * x + camera.axes[7] * y + camera.axes[8] * z);
        out[f * MARK_COUNT + MARK[mark]] = behind - markDepth(mark) * HEIGHT;
      }
    }
    return out;
  }

  function limbPoints(of: Motion): Float64Array {
    const places = worldPositions(of);
    const stride = of.skeleton.joints.length * 3;
    const joints = PLACING.map(([, name]) => jointIndex(of.skeleton, name) * 3);
    return Float64Array.from({ length: of.frames * joints.length * 3 }, (_, i) => {
      const [frame, joint, k] = [Math.floor(i / 3 / joints.length), Math.floor(i / 3) % joints.length, i % 3];
      return places[frame * stride + joints[joint] + k];
    });
  }

  it('repairs what the network gets wrong along the view', () => {
    const blind = error({ ...seen, world });
    const metric = error({ ...seen, world, depth });
    expect(metric).toBeLessThan(0.03);
    expect(metric).toBeLessThan(blind * 0.6);
  });

  it('is not believed where it sees another thing', () => {
    const wall = depth.slice();
    for (let f = 20; f < 40; f++) wall[f * MARK_COUNT + MARK.leftWrist] = 6;
    expect(error({ ...seen, world, depth: wall })).toBeLessThan(0.035);
  });

  it('tells how tall a body is that nobody has measured', () => {
    const tall = (observations: BodyObservations): number =>
      solveMade(observations, { fieldOfView: 50, fit: false }).body.proportions.height;
    // The network takes everybody for about the same height.
    const usual = { ...seen, world: seen.world.map((value) => value * 0.9) };
    expect(Math.abs(tall(usual) / HEIGHT - 1)).toBeGreaterThan(0.07);
    expect(Math.abs(tall({ ...usual, depth }) / HEIGHT - 1)).toBeLessThan(0.05);
  });

  it('tells how far away the body is, whatever height it is taken for', () => {
    const far = (observations: BodyObservations): number => {
      const { motion: own, camera: found } = solveMade(observations, { fieldOfView: 50, height: HEIGHT * 1.15 });
      return Math.hypot(own.root[0] - found.position[0], own.root[2] - found.position[2]);
    };
    const real = Math.hypot(motion.root[0] - camera.position[0], motion.root[2] - camera.position[2]);
    expect(Math.abs(far({ ...seen, depth }) - real)).toBeLessThan(0.15);
    expect(far(seen) - real).toBeGreaterThan(0.4);
  });
});
