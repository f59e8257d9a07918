import { quat, vec3 } from 'gl-matrix';
import { reachFor, turnInWorld, type Limb } from '../motion/limb-ik';
import { emptyPose, poseAt, type Motion, type Pose } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { solveLinear } from '../signal/solve-linear';
import { handlesOf, limbOf, placeIn } from './handles';

/** How readily parts of the body give way: the square of a usual turn, radians; of the root, of a usual way, metres. */
const GIVES_WAY: Readonly<Record<string, number>> = {
  hips: 0.02,
  spine: 0.15,
  chest: 0.15,
  upperChest: 0.1,
  leftShoulder: 0.05,
  rightShoulder: 0.05,
  leftUpperArm: 1,
  rightUpperArm: 1,
  leftUpperLeg: 0.6,
  rightUpperLeg: 0.6,
};
const ROOT_GIVES_WAY = 0.04;
/** Elbows and knees turn about their hinge alone. */
const HINGE_GIVES_WAY = 1;
const ROUNDS = 24;
/** Damping, metres: what is nearer than this is left to the limbs. */
const DAMPING = 0.03;
/** How far the dragged end moves in one round at most, metres. */
const STEP = 0.12;

interface Freedom {
  /** The joint that turns; null moves the root. */
  joint: number | null;
  axis: vec3;
  weight: number;
  /** Which of the targets hang on it. */
  carries: boolean[];
}

interface Target {
  limb: Limb;
  place: vec3;
  turn: Float64Array;
}

/**
 * Brings ends of limbs to places with the whole body giving way, while other hands and feet stay where they are: damped least squares of all joints
 * together (C. W. Wampler, IEEE Trans. SMC 16, 1986), each as stiff as its part of the body; at the end each limb reaches exactly. Changes the motion's only frame in place.
 */
export function reachWithBody(motion: Motion, places: ReadonlyMap<string, Readonly<vec3>>): void {
  const { skeleton } = motion;
  const pose = poseAt(motion, 0, emptyPose(skeleton));
  const targets = handlesOf(skeleton)
    .filter(({ kind }) => kind === 'end')
    .map((one): Target => {
      const limb = limbOf(skeleton, one);
      return {
        limb,
        place: [...(places.get(one.joint) ?? placeIn(pose, limb.end))],
        turn: pose.rotations.slice(limb.end * 4, limb.end * 4 + 4),
      };
    });
  for (let round = 0; round < ROUNDS; round++) {
    poseAt(motion, 0, pose);
    const missing = targets.map((target) => missed(pose, target));
    if (missing.every((way) => vec3.length(way) < 1e-3)) break;
    step(motion, pose, freedoms(motion, pose, targets), targets, missing);
  }
  for (const { limb, place: wanted, turn } of targets) {
    poseAt(motion, 0, pose);
    reachFor(motion, pose, 0, limb, wanted, turn);
  }
}

/** The way that is left to a target, no longer than one round goes. */
function missed(pose: Pose, { limb, place }: Target): vec3 {
  const way = vec3.subtract(vec3.create(), place, placeIn(pose, limb.end));
  const far = vec3.length(way);
  return far > STEP ? vec3.scale(way, way, STEP / far) : way;
}

/** What can move, and how readily. */
function freedoms(motion: Motion, pose: Pose, targets: readonly Target[]): Freedom[] {
  const { skeleton } = motion;
  const hangs = (end: number, joint: number): boolean => {
    for (let j = skeleton.joints[end].parent; j >= 0; j = skeleton.joints[j].parent) if (j === joint) return true;
    return false;
  };
  const carried = (joint: number): boolean[] => targets.map(({ limb }) => hangs(limb.end, joint));
  const all: Freedom[] = AXES.map((axis) => ({
    joint: null,
    axis,
    weight: ROOT_GIVES_WAY,
    carries: targets.map(() => true),
  }));
  for (const [name, weight] of Object.entries(GIVES_WAY)) {
    const joint = jointIndex(skeleton, name);
    if (joint < 0) continue;
    for (const axis of AXES) all.push({ joint, axis, weight, carries: carried(joint) });
  }
  for (const { limb } of targets) {
    const [upper, middle, end] = [limb.upper, limb.lower, limb.end].map((joint) => placeIn(pose, joint));
    const [a, b] = [vec3.subtract(vec3.create(), middle, upper), vec3.subtract(vec3.create(), end, middle)];
    const hinge = vec3.cross(vec3.create(), a, b);
    // A straight limb has no hinge to tell; the others bend it first.
    if (vec3.length(hinge) < 0.05 * vec3.length(a) * vec3.length(b)) continue;
    vec3.normalize(hinge, hinge);
    all.push({ joint: limb.lower, axis: hinge, weight: HINGE_GIVES_WAY, carries: carried(limb.lower) });
  }
  return all;
}

const AXES: readonly vec3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

/** One damped step of all freedoms. */
function step(
  motion: Motion,
  pose: Pose,
  free: readonly Freedom[],
  targets: readonly Target[],
  missing: readonly vec3[],
): void {
  const jacobian = free.map(({ joint, axis, carries }) =>
    targets.flatMap(({ limb }, i): number[] => {
      if (!carries[i]) return [0, 0, 0];
      if (joint === null) return [...axis];
      const arm = vec3.subtract(vec3.create(), placeIn(pose, limb.end), placeIn(pose, joint));
      return [...vec3.cross(vec3.create(), axis, arm)];
    }),
  );
  const size = targets.length * 3;
  const normal = Array.from({ length: size }, (_, i) =>
    Array.from(
      { length: size },
      (__, k) =>
        jacobian.reduce((sum, row, f) => sum + row[i] * row[k] * free[f].weight, 0) + (i === k ? DAMPING ** 2 : 0),
    ),
  );
  const pull = solveLinear(
    normal,
    missing.flatMap((way) => [...way]),
  );
  const moves = jacobian.map((row, f) => free[f].weight * row.reduce((sum, value, i) => sum + value * pull[i], 0));
  // Turns of one joint about several axes are one turn; joints further out first, so that what was measured still holds.
  const turns = new Map<number, vec3>();
  free.forEach(({ joint, axis }, f) => {
    if (joint === null) {
      for (let k = 0; k < 3; k++) motion.root[k] += axis[k] * moves[f];
      return;
    }
    const turn = turns.get(joint) ?? vec3.create();
    turns.set(joint, vec3.scaleAndAdd(turn, turn, axis, moves[f]));
  });
  for (const [joint, way] of [...turns].sort(([a], [b]) => b - a)) {
    const angle = vec3.length(way);
    if (angle < 1e-9) continue;
    const turn = quat.setAxisAngle(quat.create(), vec3.scale(vec3.create(), way, 1 / angle), angle);
    turnInWorld(motion, 0, joint, pose.rotations, motion.skeleton.joints[joint].parent * 4, turn);
  }
}
