import { quat, vec3 } from 'gl-matrix';
import type { FaceShape } from '@merry-shadow/core/face/face-shapes';
import { FINGER_ANGLES, HAND_ANGLES, handTurns, SPREAD } from '@merry-shadow/core/hands/finger-turns';
import { handShape } from '@merry-shadow/core/hands/hand-shapes';
import { FINGERS, SIDES, type Side } from '@merry-shadow/core/motion/humanoid';
import { alignSigns, restMotion, writeRotation, type Motion } from '@merry-shadow/core/motion/motion';
import { jointIndex, type Skeleton } from '@merry-shadow/core/motion/skeleton';
import { performFace } from '../face/perform-face';
import { seededRandom } from '../random';
import { bodyProportions, bodySkeleton } from './figure-skeleton';
import { footTrack, jumpHeight, planSteps, type FootTrack } from './feet';
import { sampleTrack, smoothSamples } from './keys';
import { HandKey, type Performer } from './script';

/** A performance with all that is true of it. */
export interface Performance {
  motion: Motion;
  /** 1 where the part is on the floor and still. */
  contacts: Record<'leftHeel' | 'leftToe' | 'rightHeel' | 'rightToe', Uint8Array>;
  /** Strength of the face's shapes that are ever made, 0 … 1. */
  face: Partial<Record<FaceShape, Float64Array>>;
  /** Where the eyes look against the head, radians: to the performer's left, and up. */
  gaze: { across: Float64Array; up: Float64Array };
}

const RAD = Math.PI / 180;
const X: vec3 = [1, 0, 0];
const Y: vec3 = [0, 1, 0];
const Z: vec3 = [0, 0, 1];

/** Turns about the axes given, in order, degrees. */
function turns(...parts: [vec3, number][]): quat {
  const out = quat.create();
  for (const [axis, degrees] of parts) quat.multiply(out, out, quat.setAxisAngle(quat.create(), axis, degrees * RAD));
  return out;
}

/** The same turn seen in a mirror that swaps left and right. */
function mirrored(q: quat): quat {
  return [q[0], -q[1], -q[2], q[3]];
}

/**
 * Performs a script: every frame's pose, with feet that stay exactly where they are planted.
 * @param seed makes the small unconscious movements repeatable.
 */
export function perform(performer: Performer, frames: number, rate: number, seed: number): Performance {
  const { moves, body } = performer;
  const p = bodyProportions(body);
  const skeleton = bodySkeleton(body);
  const motion = restMotion(skeleton, frames, rate);
  const shape = { ankle: p.ankle, ball: p.foot, ballHeight: 0.25 * p.ankle, heel: 0.035 * p.height };
  const steps = planSteps(moves);
  const feet = {
    left: footTrack(moves, steps, 'left', shape, frames, rate),
    right: footTrack(moves, steps, 'right', shape, frames, rate),
  };
  const random = seededRandom(seed);
  const drift = (hertz: number, size: number): ((t: number) => number) => {
    const phase = random() * 6.283;
    const second = random() * 6.283;
    return (t) => size * (Math.sin(6.283 * hertz * t + phase) + 0.5 * Math.sin(6.283 * hertz * 1.73 * t + second));
  };
  const idle = {
    side: drift(0.21, 0.5),
    bend: drift(0.27, 0.5),
    nod: drift(0.31, 0.9),
    turn: drift(0.19, 1.3),
    arm: drift(0.33, 0.6),
  };
  const track = <K extends { at: number }>(keys: K[], pick: (key: K) => number, fallback = 0): Float64Array =>
    sampleTrack(keys, pick, frames, rate, fallback);

  const stride = strideOf(feet, rate);
  const hips = hipsPath(performer, feet, skeleton, stride, frames, rate);
  const spine = {
    bend: track(moves.spine, (k) => k.bend),
    side: track(moves.spine, (k) => k.side),
    twist: track(moves.spine, (k) => k.twist),
  };
  const head = {
    nod: track(moves.head, (k) => k.nod),
    turn: track(moves.head, (k) => k.turn),
    tilt: track(moves.head, (k) => k.tilt),
  };
  const arms = Object.fromEntries(
    SIDES.map((side) => {
      const keys = moves[`${side}Arm`];
      return [
        side,
        {
          raise: track(keys, (k) => k.raise, 12),
          forward: track(keys, (k) => k.forward, 10),
          turn: track(keys, (k) => k.turn),
          bend: track(keys, (k) => k.bend, 14),
          wrist: track(keys, (k) => k.wrist),
          aside: track(keys, (k) => k.aside),
          roll: track(keys, (k) => k.roll),
        },
      ];
    }),
  ) as Record<Side, Record<'raise' | 'forward' | 'turn' | 'bend' | 'wrist' | 'aside' | 'roll', Float64Array>>;
  const hands = Object.fromEntries(
    SIDES.map((side) => {
      const keys = moves[`${side}Hand`].map((key) => ({ at: key.at, pose: keyedPose(key) }));
      const idle = keyedPose(HandKey.parse({ at: 0 }));
      return [side, Array.from({ length: HAND_ANGLES }, (_, i) => track(keys, (k) => k.pose[i], idle[i]))];
    }),
  ) as Record<Side, Float64Array[]>;

  const index = (name: string): number => jointIndex(skeleton, name);
  for (let f = 0; f < frames; f++) {
    const t = f / rate;
    const set = (name: string, value: quat): void => writeRotation(motion, index(name), f, value);
    motion.root.set(hips.position.subarray(f * 3, f * 3 + 3), f * 3);
    const hipsTurn = turns([Y, hips.yaw[f]], [X, hips.pitch[f]], [Z, hips.roll[f]]);
    set('hips', hipsTurn);
    const breath = 0.9 * Math.sin(6.283 * 0.25 * t);
    const counter = -hips.pelvis[f] * 1.5;
    for (const [bone, part] of [
      ['spine', 0.3],
      ['chest', 0.35],
      ['upperChest', 0.35],
    ] as const) {
      set(
        bone,
        turns(
          [Y, part * (spine.twist[f] + counter)],
          [X, part * (spine.bend[f] + idle.bend(t) + breath)],
          [Z, part * (spine.side[f] + idle.side(t))],
        ),
      );
    }
    const nod = head.nod[f] + idle.nod(t);
    set('neck', turns([Y, 0.4 * head.turn[f]], [X, 0.4 * nod], [Z, 0.4 * head.tilt[f]]));
    set('head', turns([Y, 0.6 * head.turn[f] + idle.turn(t)], [X, 0.6 * nod], [Z, 0.6 * head.tilt[f]]));
    for (const side of SIDES) {
      const arm = arms[side];
      const place = (q: quat): quat => (side === 'left' ? q : mirrored(q));
      const swing = (side === 'left' ? 1 : -1) * stride[f] * 0.9;
      const raise = arm.raise[f] + idle.arm(t);
      const shrug = Math.max(0, raise - 60) * 0.22;
      set(`${side}Shoulder`, place(turns([Z, shrug])));
      set(
        `${side}UpperArm`,
        place(turns([X, -swing * 26], [Y, -arm.forward[f]], [Z, raise - 90 - shrug], [X, arm.turn[f]])),
      );
      set(`${side}LowerArm`, place(turns([Y, -(arm.bend[f] + Math.max(0, swing) * 16)], [X, -arm.roll[f]])));
      set(`${side}Hand`, place(turns([Z, arm.wrist[f]], [Y, -arm.aside[f]])));
      const pose = hands[side].map((angle) => angle[f]);
      for (const [bone, turn] of handTurns(side, pose)) set(bone, turn);
      bendLeg(motion, skeleton, side, f, hipsTurn, feet[side]);
    }
  }
  alignSigns(motion);
  return {
    motion,
    contacts: {
      leftHeel: feet.left.heelContact,
      leftToe: feet.left.toeContact,
      rightHeel: feet.right.heelContact,
      rightToe: feet.right.toeContact,
    },
    face: performFace(moves, frames, rate),
    gaze: {
      across: track(moves.gaze, (k) => k.across * RAD),
      up: track(moves.gaze, (k) => k.up * RAD),
    },
  };
}

/** The angles of a hand (`HAND_ANGLES`) that a key asks for: all of them told, a ready shape, or all fingers curled alike. */
function keyedPose({ curl, spread, shape, strength, angles }: HandKey): Float64Array {
  if (angles) return Float64Array.from(angles, (angle) => angle * RAD);
  if (shape) {
    const relaxed = handShape('relaxed');
    return handShape(shape).map((angle, i) => relaxed[i] + strength * (angle - relaxed[i]));
  }
  const pose = new Float64Array(HAND_ANGLES);
  FINGERS.forEach((finger, f) => {
    const bends = finger === 'Thumb' ? [18, 30, 40] : [76, 92, 62];
    bends.forEach((bend, joint) => (pose[f * FINGER_ANGLES + joint] = bend * curl * RAD));
    pose[f * FINGER_ANGLES + SPREAD] = { Thumb: 0, Index: -7, Middle: -1, Ring: 5, Little: 11 }[finger] * spread * RAD;
  });
  return pose;
}

/** How far the left foot is ahead of the right, −1 … 1, smoothed: drives arms and pelvis. */
function strideOf(feet: Record<Side, FootTrack>, rate: number): Float64Array {
  const frames = feet.left.yaw.length;
  const raw = new Float64Array(frames);
  for (let f = 0; f < frames; f++) {
    const yaw = (feet.left.yaw[f] + feet.right.yaw[f]) / 2;
    const dx = feet.left.ankle[f * 3] - feet.right.ankle[f * 3];
    const dz = feet.left.ankle[f * 3 + 2] - feet.right.ankle[f * 3 + 2];
    raw[f] = Math.max(-1, Math.min(1, (dx * Math.sin(yaw) + dz * Math.cos(yaw)) / 0.6));
  }
  return smoothSamples(raw, 0.06 * rate);
}

/** The hips follow the feet, keep within their reach, and add what the script asks for. */
function hipsPath(
  performer: Performer,
  feet: Record<Side, FootTrack>,
  skeleton: Skeleton,
  stride: Float64Array,
  frames: number,
  rate: number,
) {
  const { moves } = performer;
  const p = bodyProportions(performer.body);
  const keyed = (pick: (k: (typeof moves.hips)[number]) => number): Float64Array =>
    sampleTrack(moves.hips, pick, frames, rate, 0);
  const [lower, shiftX, shiftZ, pitch, turn, roll] = [
    keyed((k) => k.lower),
    keyed((k) => k.shift[0]),
    keyed((k) => k.shift[1]),
    keyed((k) => k.pitch),
    keyed((k) => k.turn),
    keyed((k) => k.roll),
  ];
  const mean = (axis: number): Float64Array => {
    const raw = new Float64Array(frames);
    for (let f = 0; f < frames; f++) {
      const weight = (foot: FootTrack): number => (foot.heelContact[f] || foot.toeContact[f] ? 1.35 : 1);
      const [l, r] = [weight(feet.left), weight(feet.right)];
      raw[f] = (feet.left.ankle[f * 3 + axis] * l + feet.right.ankle[f * 3 + axis] * r) / (l + r);
    }
    return smoothSamples(raw, 0.13 * rate);
  };
  const [meanX, meanZ] = [mean(0), mean(2)];
  const facing = smoothSamples(
    feet.left.yaw.map((yaw, f) => (yaw + feet.right.yaw[f]) / 2),
    0.12 * rate,
  );
  const pelvis = stride.map((value) => -6 * value);
  const position = new Float64Array(frames * 3);
  const legs = SIDES.map((side) => skeleton.joints[jointIndex(skeleton, `${side}UpperLeg`)].offset);
  const reach = (p.thigh + p.shin) * 0.992;
  const standing = p.ankle + p.shin + p.thigh + p.hipDrop - 0.006 * p.height;
  const height = new Float64Array(frames);
  for (let f = 0; f < frames; f++) {
    const yaw = facing[f];
    position[f * 3] = meanX[f] + Math.cos(yaw) * shiftX[f] + Math.sin(yaw) * (shiftZ[f] + 0.012 * p.height);
    position[f * 3 + 2] = meanZ[f] - Math.sin(yaw) * shiftX[f] + Math.cos(yaw) * (shiftZ[f] + 0.012 * p.height);
    height[f] = standing - lower[f] + jumpHeight(moves, f / rate);
  }
  const yawDegrees = facing.map((yaw, f) => yaw / RAD + turn[f] + pelvis[f]);
  const limit = (soft: Float64Array): Float64Array =>
    soft.map((y, f) => {
      const q = turns([Y, yawDegrees[f]], [X, pitch[f]], [Z, roll[f]]);
      let top = y;
      SIDES.forEach((side, i) => {
        const hip = vec3.transformQuat([0, 0, 0], legs[i] as vec3, q);
        const dx = position[f * 3] + hip[0] - feet[side].ankle[f * 3];
        const dz = position[f * 3 + 2] + hip[2] - feet[side].ankle[f * 3 + 2];
        const rise = Math.sqrt(Math.max(0.01, reach * reach - dx * dx - dz * dz));
        top = Math.min(top, feet[side].ankle[f * 3 + 1] + rise - hip[1]);
      });
      return top;
    });
  const smooth = smoothSamples(limit(height), 0.05 * rate);
  const final = limit(smooth);
  for (let f = 0; f < frames; f++) position[f * 3 + 1] = final[f];
  return { position, yaw: yawDegrees, pitch, roll, pelvis };
}

/** Two-bone IK: brings the ankle exactly to its place, the knee in front. */
function bendLeg(motion: Motion, skeleton: Skeleton, side: Side, f: number, hipsTurn: quat, foot: FootTrack): void {
  const joint = (part: string): number => jointIndex(skeleton, side + part);
  const [upper, lower, ankle, toes] = [joint('UpperLeg'), joint('LowerLeg'), joint('Foot'), joint('Toes')];
  const a = -skeleton.joints[lower].offset[1];
  const b = -skeleton.joints[ankle].offset[1];
  const hip = vec3.transformQuat([0, 0, 0], skeleton.joints[upper].offset as vec3, hipsTurn);
  for (let i = 0; i < 3; i++) hip[i] += motion.root[f * 3 + i];
  const target: vec3 = [foot.ankle[f * 3], foot.ankle[f * 3 + 1], foot.ankle[f * 3 + 2]];
  const down = vec3.subtract([0, 0, 0], target, hip);
  const distance = Math.min(vec3.length(down), (a + b) * 0.9999);
  vec3.normalize(down, down);
  const ahead = vec3.transformQuat([0, 0, 0], Z, hipsTurn);
  const s = side === 'left' ? 1 : -1;
  const outward = foot.yaw[f] + s * 4 * RAD;
  const pole: vec3 = [ahead[0] + Math.sin(outward), ahead[1], ahead[2] + Math.cos(outward)];
  vec3.scaleAndAdd(pole, pole, down, -vec3.dot(pole, down));
  vec3.normalize(pole, pole);
  const cosine = Math.min(1, Math.max(-1, (a * a + distance * distance - b * b) / (2 * a * distance)));
  const angle = Math.acos(cosine);
  const knee = vec3.scaleAndAdd(
    [0, 0, 0],
    vec3.scaleAndAdd([0, 0, 0], hip, down, a * Math.cos(angle)),
    pole,
    a * Math.sin(angle),
  );
  const upperTurn = frameAlong(vec3.subtract([0, 0, 0], hip, knee), pole);
  const lowerTurn = frameAlong(vec3.subtract([0, 0, 0], knee, target), pole);
  const footTurn = turns([Y, foot.yaw[f] / RAD], [X, foot.pitch[f] / RAD]);
  const local = (parent: quat, world: quat): quat =>
    quat.multiply([0, 0, 0, 1], quat.conjugate([0, 0, 0, 1], parent), world);
  writeRotation(motion, upper, f, local(hipsTurn, upperTurn));
  writeRotation(motion, lower, f, local(upperTurn, lowerTurn));
  writeRotation(motion, ankle, f, local(lowerTurn, footTurn));
  writeRotation(motion, toes, f, turns([X, -foot.toeBend[f] / RAD]));
}

/** The turn whose +Y runs along `up` and whose +Z leans to `front`. */
function frameAlong(up: vec3, front: vec3): quat {
  const y = vec3.normalize([0, 0, 0], up);
  const x = vec3.normalize([0, 0, 0], vec3.cross([0, 0, 0], y, front));
  const z = vec3.cross([0, 0, 0], x, y);
  return quat.normalize(
    [0, 0, 0, 1],
    quat.fromMat3([0, 0, 0, 1], [x[0], x[1], x[2], y[0], y[1], y[2], z[0], z[1], z[2]]),
  );
}
