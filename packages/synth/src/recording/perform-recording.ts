import { quat, vec3 } from 'gl-matrix';
import { readBvh } from '@merry-shadow/core/formats/bvh/read-bvh';
import { lowestSole, solePoints, soleTrack, type SolePoint } from '@merry-shadow/core/ground/floor';
import { holdPlants } from '@merry-shadow/core/ground/hold-plants';
import { plantsFrom } from '@merry-shadow/core/ground/plants';
import { fingerBones, FINGERS, humanoidSkeleton, SIDES } from '@merry-shadow/core/motion/humanoid';
import {
  alignSigns,
  emptyPose,
  poseAt,
  restMotion,
  writeRotation,
  type Motion,
} from '@merry-shadow/core/motion/motion';
import { jointIndex, restPositions } from '@merry-shadow/core/motion/skeleton';
import { MARK, MARK_COUNT, type MarkName } from '@merry-shadow/core/observe/body';
import { NO_CONTEXT } from '@merry-shadow/core/passes/pass';
import { sampleMotion } from '@merry-shadow/core/signal/sample-motion';
import { smooth } from '@merry-shadow/core/passes/smooth';
import { PoseFromPoints } from '@merry-shadow/core/solve/start/pose-from-points';
import { bodyProportions, bodySkeleton } from '../choreography/figure-skeleton';
import type { Performance } from '../choreography/perform';
import type { Body } from '../choreography/script';
import { matchBones, type MatchedBones } from './match-bones';

/** A sole rests when it is as near to its own floor and as slow as this: metres, metres a second. */
const REST_HEIGHT = 0.03;
const REST_SPEED = 0.2;
/**
 * Each sole has its own floor: recorded ankles and feet lie otherwise in the body than ours, and legs of two lengths are common.
 * It is where the sole is slow at its lowest: this part of such frames lies below it; no higher above the others' than so many metres.
 */
const OWN_FLOOR = 0.25;
const HIGHEST_OWN = 0.08;

/** A recorded motion with the person found in it, brought upright: +Y up. */
interface Recording {
  motion: Motion;
  bones: MatchedBones;
  /** Turn of the file's axes to ours. */
  upright: quat;
  rest: Float64Array;
}

/**
 * Finds the person in a BVH recording and which way is up in it.
 * @throws Error when there is none.
 */
export function openRecording(text: string): Recording {
  const motion = readBvh(text);
  const rest = restPositions(motion.skeleton);
  const first = matchBones(motion.skeleton, rest, [0, 1, 0]);
  // Up is where heads are over hips, most of the time.
  const pose = emptyPose(motion.skeleton);
  const sum = [0, 0, 0];
  for (let frame = 0; frame < motion.frames; frame += Math.max(1, motion.frames >> 7)) {
    poseAt(motion, frame, pose);
    for (let k = 0; k < 3; k++) sum[k] += pose.positions[first.neck * 3 + k] - pose.positions[first.hips * 3 + k];
  }
  const axis = sum.map(Math.abs).indexOf(Math.max(...sum.map(Math.abs)));
  const up: vec3 = [0, 0, 0];
  up[axis] = Math.sign(sum[axis]);
  const upright = quat.rotationTo([0, 0, 0, 1], up, [0, 1, 0]);
  return { motion, rest, upright, bones: matchBones(motion.skeleton, rest, restUp(rest, first)) };
}

/** Up in the rest pose: along the axis in which the neck is farthest from the hips. */
function restUp(rest: Float64Array, { neck, hips }: MatchedBones): number[] {
  const line = [0, 1, 2].map((k) => rest[neck * 3 + k] - rest[hips * 3 + k]);
  const axis = line.map(Math.abs).indexOf(Math.max(...line.map(Math.abs)));
  return line.map((value, k) => (k === axis ? Math.sign(value) : 0));
}

/** Seconds that a recording lasts. @throws Error when it can't be read. */
export function recordingSeconds(text: string): number {
  const { frames, rate } = readBvh(text);
  return frames / rate;
}

/**
 * Puts a recorded motion on a made-up body: the directions of its bones on the body's own lengths, its path scaled
 * by the length of the legs, facing the front at first, on the floor. Where the soles rest, they are held still.
 */
export function performRecording(text: string, body: Body, frames: number, rate: number): Performance {
  const recording = openRecording(text);
  const source = recording.motion;
  const whole = fitForRate(onBody(recording, body), rate);
  const times = Float64Array.from({ length: frames }, (_, f) => (f / rate) * source.rate);
  const motion = sampleMotion(whole, times, rate);
  faceFront(motion);
  const low = lowestSole(motion).sort();
  const floor = low[Math.floor(low.length * 0.1)];
  for (let f = 0; f < frames; f++) motion.root[f * 3 + 1] -= floor;
  const resting = restingSoles(motion);
  const held = holdPlants(motion, plantsFrom(resting));
  return {
    motion: held,
    contacts: stillSoles(held, resting),
    face: {},
    gaze: { across: new Float64Array(frames), up: new Float64Array(frames) },
  };
}

/** Standard deviation of what is smoothed before fewer frames are taken, in frames that are left. */
const SMOOTHED = 0.4;

/** Takes out of a motion what a lower rate can't hold, so that it does not come back as shake (C. E. Shannon, 1949). */
function fitForRate(motion: Motion, rate: number): Motion {
  if (motion.rate < rate * 1.05) return motion;
  const seconds = SMOOTHED / rate;
  return smooth.apply(motion, { joints: seconds, root: seconds, face: 0, gestures: false }, NO_CONTEXT);
}

/** The recording on the body's skeleton, frame by frame. */
function onBody({ motion: source, bones, upright, rest }: Recording, body: Body): Motion {
  const p = bodyProportions(body);
  const skeleton = bodySkeleton(body);
  const plain = humanoidSkeleton(p);
  const poser = new PoseFromPoints(plain);
  const motion = restMotion(skeleton, source.frames, source.rate);
  const pose = emptyPose(source.skeleton);
  const points = new Float64Array(MARK_COUNT * 3);
  const length = (a: number, b: number): number =>
    Math.hypot(...[0, 1, 2].map((k) => rest[a * 3 + k] - rest[b * 3 + k]));
  const { left } = bones;
  const scale = (p.thigh + p.shin) / (length(left.thigh, left.knee) + length(left.knee, left.ankle));
  const axes = restAxes(bones, rest);
  const places = plain.joints.map(({ name }) => jointIndex(skeleton, name));
  const drop: vec3 = [0, -p.hipDrop, 0];
  for (let frame = 0; frame < source.frames; frame++) {
    poseAt(source, frame, pose);
    const at = (joint: number): vec3 =>
      vec3.transformQuat([0, 0, 0], [...pose.positions.subarray(joint * 3, joint * 3 + 3)] as vec3, upright);
    /** A direction of the rest pose as a joint has turned it. */
    const turned = (joint: number, direction: vec3): vec3 => {
      const turn = [...pose.rotations.subarray(joint * 4, joint * 4 + 4)] as quat;
      const moved = vec3.transformQuat([0, 0, 0], direction, turn);
      return vec3.transformQuat(moved, moved, upright);
    };
    const set = (name: string, place: vec3): void => points.set(place, MARK[name as MarkName] * 3);
    const beside = (place: vec3, way: vec3, metres: number): vec3 => vec3.scaleAndAdd([0, 0, 0], place, way, metres);
    for (const side of SIDES) {
      const own = bones[side];
      set(`${side}Shoulder`, at(own.upperArm));
      set(`${side}Elbow`, at(own.foreArm));
      set(`${side}Wrist`, at(own.wrist));
      const reach = vec3.subtract([0, 0, 0], at(own.wrist), at(own.foreArm));
      const palm = beside(at(own.wrist), vec3.normalize(reach, reach), 0.1);
      const thumbwards = turned(own.wrist, axes.front);
      set(`${side}Index`, beside(palm, thumbwards, 0.03));
      set(`${side}Pinky`, beside(palm, thumbwards, -0.03));
      set(`${side}Hip`, at(own.thigh));
      set(`${side}Knee`, at(own.knee));
      set(`${side}Ankle`, at(own.ankle));
      const toes = turned(own.ankle, axes.foot[side]);
      set(`${side}Heel`, beside(at(own.ankle), toes, -0.05));
      set(`${side}FootIndex`, beside(at(own.ankle), toes, 0.15));
      const ear = turned(bones.head, axes.left);
      set(`${side}Ear`, beside(at(bones.head), ear, side === 'left' ? 0.07 : -0.07));
    }
    // The nose of a level head lies a little below the ears.
    const [front, up] = [turned(bones.head, axes.front), turned(bones.head, axes.up)];
    set('nose', beside(beside(at(bones.head), front, 0.1), up, -0.014));
    poser.solve(points, 0).forEach((turn, j) => writeRotation(motion, places[j], frame, turn));
    const middle = vec3.lerp([0, 0, 0], at(bones.left.thigh), at(bones.right.thigh), 0.5);
    const hips = [...motion.rotations.subarray(frame * 4, frame * 4 + 4)] as quat;
    const down = vec3.transformQuat([0, 0, 0], drop, hips);
    motion.root.set(
      [0, 1, 2].map((k) => middle[k] * scale - down[k]),
      frame * 3,
    );
  }
  curlFingers(motion);
  alignSigns(motion);
  return motion;
}

/** Up, left and front of the rest pose, and where its feet point when they stand flat. */
function restAxes(bones: MatchedBones, rest: Float64Array) {
  const line = (from: number, to: number): vec3 => [0, 1, 2].map((k) => rest[to * 3 + k] - rest[from * 3 + k]) as vec3;
  const up = restUp(rest, bones) as vec3;
  const left = line(bones.right.thigh, bones.left.thigh);
  vec3.scaleAndAdd(left, left, up, -vec3.dot(left, up));
  vec3.normalize(left, left);
  const front = vec3.cross([0, 0, 0], left, up);
  const foot = (side: 'left' | 'right'): vec3 => {
    const { ankle, ball } = bones[side];
    const way = ball >= 0 ? line(ankle, ball) : vec3.clone(front);
    vec3.scaleAndAdd(way, way, up, -vec3.dot(way, up));
    return vec3.length(way) < 1e-6 ? vec3.clone(front) : vec3.normalize(way, way);
  };
  return { up, left, front, foot: { left: foot('left'), right: foot('right') } };
}

/** Hands that are not recorded hang relaxed. */
function curlFingers(motion: Motion): void {
  for (const side of SIDES)
    for (const finger of FINGERS)
      for (const bone of fingerBones(finger)) {
        const joint = jointIndex(motion.skeleton, side + finger + bone);
        if (joint < 0 || finger === 'Thumb') continue;
        const turn = quat.setAxisAngle([0, 0, 0, 1], [0, 0, 1], (side === 'left' ? -1 : 1) * 0.3);
        for (let frame = 0; frame < motion.frames; frame++) writeRotation(motion, joint, frame, turn);
      }
}

/** Turns a motion about +Y so that it faces the front in its first second, its middle over the origin. Changes it in place. */
function faceFront(motion: Motion): void {
  const sum = [0, 0];
  const hips: quat = [0, 0, 0, 1];
  for (let f = 0; f < Math.min(motion.frames, motion.rate); f++) {
    quat.copy(hips, [...motion.rotations.subarray(f * 4, f * 4 + 4)] as quat);
    const front = vec3.transformQuat([0, 0, 0], [0, 0, 1], hips);
    sum[0] += front[0];
    sum[1] += front[2];
  }
  const turn = quat.setAxisAngle([0, 0, 0, 1], [0, 1, 0], -Math.atan2(sum[0], sum[1]));
  const places = Array.from({ length: motion.frames }, (_, f) =>
    vec3.transformQuat([0, 0, 0], [...motion.root.subarray(f * 3, f * 3 + 3)] as vec3, turn),
  );
  const middle = (k: number): number => {
    const values = places.map((place) => place[k]);
    return (Math.min(...values) + Math.max(...values)) / 2;
  };
  const [x, z] = [middle(0), middle(2)];
  places.forEach((place, f) => {
    motion.root.set([place[0] - x, place[1], place[2] - z], f * 3);
    const own = [...motion.rotations.subarray(f * 4, f * 4 + 4)] as quat;
    writeRotation(motion, 0, f, quat.multiply(own, turn, own));
  });
}

type Soles = Record<SolePoint['name'], Uint8Array>;

/** When the soles of a recording rest. */
function restingSoles(motion: Motion): Soles {
  const points = solePoints(motion);
  const track = soleTrack(motion, points);
  return Object.fromEntries(
    points.map(({ name }, p) => {
      const at = (f: number, k: number): number => track[(f * points.length + p) * 3 + k];
      const slow = Uint8Array.from({ length: motion.frames }, (_, f) => {
        const [a, b] = [Math.max(0, f - 1), Math.min(motion.frames - 1, f + 1)];
        const speed = (Math.hypot(...[0, 1, 2].map((k) => at(b, k) - at(a, k))) * motion.rate) / Math.max(1, b - a);
        return speed < REST_SPEED ? 1 : 0;
      });
      const floor = ownFloor(Array.from(slow.keys(), (f) => (slow[f] ? at(f, 1) : Infinity)));
      return [name, slow.map((still, f) => (still && Math.abs(at(f, 1) - floor) < REST_HEIGHT ? 1 : 0))];
    }),
  ) as Soles;
}

/** Where a sole rests at its lowest, metres. @param heights frame by frame where it is slow, others infinite. */
function ownFloor(heights: readonly number[]): number {
  const low = heights.filter((height) => height < HIGHEST_OWN + REST_HEIGHT).sort((a, b) => a - b);
  return low.length > 0 ? Math.max(0, Math.min(HIGHEST_OWN, low[Math.floor(low.length * OWN_FLOOR)])) : 0;
}

/** Of the soles that rest, those that are truly still on the floor after they were held. */
function stillSoles(motion: Motion, resting: Soles): Soles {
  const points = solePoints(motion);
  const track = soleTrack(motion, points);
  return Object.fromEntries(
    points.map(({ name }, p) => {
      const at = (f: number, k: number): number => track[(f * points.length + p) * 3 + k];
      const apart = (a: number, b: number): number => Math.hypot(...[0, 1, 2].map((k) => at(a, k) - at(b, k)));
      return [
        name,
        resting[name].map((flag, f) => {
          const near = [f - 1, f + 1].filter((g) => g >= 0 && g < motion.frames && resting[name][g]);
          return flag && Math.abs(at(f, 1)) < 0.002 && near.every((g) => apart(f, g) < 0.001) ? 1 : 0;
        }),
      ];
    }),
  ) as Soles;
}
