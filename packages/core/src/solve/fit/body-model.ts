import { solePoints } from '../../ground/floor';
import { SIDES, type Side } from '../../motion/humanoid';
import { multiply, normaliseTurn, rotate, rotateBack } from '../../motion/flat-turns';
import type { Motion } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import type { MarkName } from '../../observe/body';
import { MARK_PARTS, markPlace, type MarkPart } from '../body/joint-offsets';

/** A point of the body: a joint's place and an offset that turns with a joint. */
interface BodyPoint {
  name: string;
  mark: MarkName | null;
  at: number;
  turnsWith: number;
  offset: [number, number, number];
  /** How freely the point may be sped up at rest, against others. */
  nimble: number;
  /** Unknowns that move it, rising. */
  unknowns: number[];
}

/** One unknown of a frame: a shift of the root, or a turn of a joint. */
interface Unknown {
  joint: number;
  kind: 'shift' | 'worldTurn' | 'hinge' | 'ownTurn';
  axis: 0 | 1 | 2;
}

/** How freely each mark's point may be sped up at rest, against others. */
const NIMBLE: Record<MarkPart, number> = {
  Shoulder: 1,
  Elbow: 1,
  Wrist: 2,
  Hip: 0.5,
  Knee: 1,
  Ankle: 2,
  Heel: 2,
  FootIndex: 2,
};

/** Points that no mark shows: which way hip, knee and shin face. Metres from the joint, in the axes of the bone named. */
const FACING: readonly [name: string, at: string, turnsWith: string, offset: [number, number, number]][] = [
  // Thighs swing from a little back to far up: half way between them is ahead and up.
  ['HipFront', 'UpperLeg', 'hips', [0, 0.15, 0.13]],
  ['Kneecap', 'LowerLeg', 'UpperLeg', [0, 0, 0.2]],
  ['ShinFront', 'Foot', 'LowerLeg', [0, 0, 0.2]],
];

/**
 * What the fit moves: 29 unknowns a frame (root, ball joints at hips, spine, shoulders and hip joints,
 * hinges at elbows and knees, pitch and yaw of the feet), and the points they move. Turns are small
 * turns about world axes before the old turn; hinges turn about their own axis.
 */
export class BodyModel {
  readonly unknowns: Unknown[] = [];
  readonly points: BodyPoint[] = [];
  /** Which points are the sole points of `solePoints`, in its order. */
  readonly soles: number[] = [];
  private readonly parents: Int32Array;
  private readonly offsets: Float64Array;
  readonly jointPositions: Float64Array;
  readonly jointRotations: Float64Array;
  /** points × 3 of the frame that was evaluated last. */
  readonly places: Float64Array;
  /** For each point and unknown of its list: the three derivatives. */
  readonly jacobians: Float64Array[];

  constructor(
    private readonly motion: Motion,
    height: number,
  ) {
    const { joints } = motion.skeleton;
    const index = (name: string): number => jointIndex(motion.skeleton, name);
    this.parents = Int32Array.from(joints, (joint) => joint.parent);
    this.offsets = Float64Array.from(joints.flatMap((joint) => [...joint.offset]));
    this.jointPositions = new Float64Array(joints.length * 3);
    this.jointRotations = new Float64Array(joints.length * 4);
    for (const axis of [0, 1, 2] as const) this.unknowns.push({ joint: 0, kind: 'shift', axis });
    const ball = (name: string): void => {
      for (const axis of [0, 1, 2] as const) this.unknowns.push({ joint: index(name), kind: 'worldTurn', axis });
    };
    ball('hips');
    ball('spine');
    for (const side of SIDES) {
      ball(`${side}UpperArm`);
      this.unknowns.push({ joint: index(`${side}LowerArm`), kind: 'hinge', axis: 1 });
    }
    for (const side of SIDES) {
      ball(`${side}UpperLeg`);
      this.unknowns.push({ joint: index(`${side}LowerLeg`), kind: 'hinge', axis: 0 });
      this.unknowns.push(
        { joint: index(`${side}Foot`), kind: 'ownTurn', axis: 0 },
        { joint: index(`${side}Foot`), kind: 'worldTurn', axis: 1 },
      );
    }
    for (const side of SIDES) this.addPoints(side, height, index);
    for (const { name, joint, offset } of solePoints(motion)) {
      this.soles.push(this.points.length);
      this.addPoint({ name: `${name}Sole`, mark: null, at: joint, turnsWith: joint, offset, nimble: 2 });
    }
    for (const side of SIDES) this.addFacing(side, index);
    this.places = new Float64Array(this.points.length * 3);
    this.jacobians = this.points.map((point) => new Float64Array(point.unknowns.length * 3));
  }

  private addPoints(side: Side, height: number, index: (name: string) => number): void {
    for (const part of MARK_PARTS) {
      const { joint, turnsWith, offset } = markPlace(side, part);
      const [x, y, z] = offset;
      this.addPoint({
        name: side + part,
        mark: `${side}${part}`,
        at: index(joint),
        turnsWith: index(turnsWith),
        offset: [x * height, y * height, z * height],
        nimble: NIMBLE[part],
      });
    }
  }

  private addFacing(side: Side, index: (name: string) => number): void {
    for (const [name, at, turnsWith, offset] of FACING)
      this.addPoint({
        name: side + name,
        mark: null,
        at: index(side + at),
        turnsWith: index(turnsWith === 'hips' ? turnsWith : side + turnsWith),
        offset,
        nimble: 1,
      });
  }

  private addPoint(point: Omit<BodyPoint, 'unknowns'>): void {
    const above = new Set<number>();
    for (const start of [point.at, point.turnsWith]) for (let j = start; j >= 0; j = this.parents[j]) above.add(j);
    // The joint itself does not move its own place, unless the offset turns with it.
    const unknowns = this.unknowns.flatMap(({ joint, kind }, i) =>
      kind === 'shift' || (above.has(joint) && (joint !== point.at || point.turnsWith === joint)) ? [i] : [],
    );
    this.points.push({ ...point, unknowns });
  }

  /** Turns that change the line between two points, and where each stands in their lists, -1 where it does not. */
  turnsBetween(a: number, b: number): { unknown: number; inA: number; inB: number }[] {
    return this.unknowns.flatMap(({ kind }, unknown) => {
      const [inA, inB] = [a, b].map((point) => this.points[point].unknowns.indexOf(unknown));
      return kind === 'shift' || (inA < 0 && inB < 0) ? [] : [{ unknown, inA, inB }];
    });
  }

  /** Forward kinematics of one frame: joint places and turns, points and their Jacobians. */
  evaluate(frame: number): void {
    this.turnJoints(frame);
    const { jointPositions, jointRotations, places, jacobians } = this;
    this.points.forEach((point, p) => {
      rotate(jointRotations, point.turnsWith * 4, point.offset[0], point.offset[1], point.offset[2], V);
      for (let k = 0; k < 3; k++) places[p * 3 + k] = jointPositions[point.at * 3 + k] + V[k];
      const jacobian = jacobians[p];
      for (let i = 0; i < point.unknowns.length; i++) {
        const { joint, kind, axis } = this.unknowns[point.unknowns[i]];
        if (kind === 'shift') {
          jacobian[i * 3] = axis === 0 ? 1 : 0;
          jacobian[i * 3 + 1] = axis === 1 ? 1 : 0;
          jacobian[i * 3 + 2] = axis === 2 ? 1 : 0;
          continue;
        }
        this.axisOf(joint, kind, axis, A);
        const x = places[p * 3] - jointPositions[joint * 3];
        const y = places[p * 3 + 1] - jointPositions[joint * 3 + 1];
        const z = places[p * 3 + 2] - jointPositions[joint * 3 + 2];
        jacobian[i * 3] = A[1] * z - A[2] * y;
        jacobian[i * 3 + 1] = A[2] * x - A[0] * z;
        jacobian[i * 3 + 2] = A[0] * y - A[1] * x;
      }
    });
  }

  private axisOf(joint: number, kind: Unknown['kind'], axis: number, out: Float64Array): void {
    if (kind === 'worldTurn') {
      out.fill(0);
      out[axis] = 1;
    } else rotate(this.jointRotations, joint * 4, axis === 0 ? 1 : 0, axis === 1 ? 1 : 0, axis === 2 ? 1 : 0, out);
  }

  private turnJoints(frame: number): void {
    const { motion, parents, offsets, jointPositions, jointRotations } = this;
    for (let j = 0; j < parents.length; j++) {
      const at = (j * motion.frames + frame) * 4;
      const p = parents[j];
      if (p < 0) {
        for (let k = 0; k < 3; k++) jointPositions[k] = motion.root[frame * 3 + k];
        for (let k = 0; k < 4; k++) jointRotations[k] = motion.rotations[at + k];
        continue;
      }
      rotate(jointRotations, p * 4, offsets[j * 3], offsets[j * 3 + 1], offsets[j * 3 + 2], V);
      for (let k = 0; k < 3; k++) jointPositions[j * 3 + k] = jointPositions[p * 3 + k] + V[k];
      multiply(jointRotations, p * 4, motion.rotations, at, jointRotations, j * 4);
    }
  }

  /** Moves one frame of the motion by a step of the unknowns. @param step the whole take's, this frame's from `from`. */
  move(frame: number, step: Float64Array, from: number): void {
    this.turnJoints(frame);
    const { motion } = this;
    for (let i = 0; i < this.unknowns.length; i++) {
      const { joint, kind, axis } = this.unknowns[i];
      const value = step[from + i];
      if (kind === 'shift') {
        motion.root[frame * 3 + axis] += value;
        continue;
      }
      const at = (joint * motion.frames + frame) * 4;
      const parent = this.parents[joint];
      if (kind === 'worldTurn') {
        A.fill(0);
        A[axis] = 1;
        if (parent >= 0) rotateBack(this.jointRotations, parent * 4, A[0], A[1], A[2], A);
        turnBefore(motion.rotations, at, A, value);
      } else {
        A.fill(0);
        A[axis] = 1;
        turnAfter(motion.rotations, at, A, value);
      }
    }
  }
}

const V = new Float64Array(3);
const A = new Float64Array(3);
const Q = new Float64Array(4);

/** A small turn as a quaternion in Q. */
function smallTurn(axis: Float64Array, angle: number): void {
  const s = Math.sin(angle / 2);
  Q[0] = axis[0] * s;
  Q[1] = axis[1] * s;
  Q[2] = axis[2] * s;
  Q[3] = Math.cos(angle / 2);
}

function turnBefore(rotations: Float32Array, at: number, axis: Float64Array, angle: number): void {
  smallTurn(axis, angle);
  multiply(Q, 0, rotations, at, rotations, at);
  normaliseTurn(rotations, at);
}

function turnAfter(rotations: Float32Array, at: number, axis: Float64Array, angle: number): void {
  smallTurn(axis, angle);
  multiply(rotations, at, Q, 0, rotations, at);
  normaliseTurn(rotations, at);
}
