import { quat, vec3 } from 'gl-matrix';
import { jointIndex, type Skeleton } from '../../motion/skeleton';
import { MARK, type MarkName } from '../../observe/body';
import { jointPalm, type CloserLook } from './closer-look';
import { axisOf, smoothStep, turnFromXY, turnFromYX, turnFromZX } from '../../motion/turns-from-axes';

/**
 * Joint turns of one frame from the network's 3D points: the analytic start of the solve. Only
 * directions are used, so bone lengths stay those of the skeleton. Hinges take their axis from the
 * bend; where a limb is straight and the axis can't be seen, it comes from the trunk or the foot.
 */
export class PoseFromPoints {
  private readonly index: (name: string) => number;
  private readonly world: quat[];

  constructor(private readonly skeleton: Skeleton) {
    this.index = (name) => jointIndex(skeleton, name);
    this.world = skeleton.joints.map(() => quat.create());
  }

  /**
   * @param points 33 × 3, metres, +Y up, +Z to the camera.
   * @param at offset of the frame's first value.
   * @param closer what hands and face themselves tell, where they were seen.
   * @returns local turns, one for each joint.
   */
  solve(points: ArrayLike<number>, at: number, closer: CloserLook = {}): quat[] {
    const point = (name: MarkName): vec3 => {
      const i = at + MARK[name] * 3;
      return [points[i], points[i + 1], points[i + 2]];
    };
    const between = (from: vec3, to: vec3): vec3 => vec3.subtract([0, 0, 0], to, from);
    const middle = (a: vec3, b: vec3): vec3 => vec3.lerp([0, 0, 0], a, b, 0.5);
    const set = (name: string, turn: quat): void => {
      this.world[this.index(name)] = turn;
    };

    const hipLine = between(point('rightHip'), point('leftHip'));
    const shoulderLine = between(point('rightShoulder'), point('leftShoulder'));
    const trunk = between(
      middle(point('leftHip'), point('rightHip')),
      middle(point('leftShoulder'), point('rightShoulder')),
    );
    const hips = turnFromYX(trunk, hipLine);
    const chest = turnFromYX(trunk, shoulderLine);
    const part = (t: number): quat => quat.slerp([0, 0, 0, 1], hips, chest, t);
    set('hips', hips);
    set('spine', part(0.3));
    set('chest', part(0.65));
    set('upperChest', chest);

    const ears = between(point('rightEar'), point('leftEar'));
    const gaze = between(middle(point('leftEar'), point('rightEar')), point('nose'));
    // The nose lies a little below the ears when the head is level.
    const head =
      closer.head ??
      quat.multiply([0, 0, 0, 1], turnFromZX(gaze, ears), quat.setAxisAngle([0, 0, 0, 1], [1, 0, 0], -0.14));
    set('neck', quat.slerp([0, 0, 0, 1], chest, head, 0.5));
    set('head', head);

    for (const side of ['left', 'right'] as const) {
      const s = side === 'left' ? 1 : -1;
      const p = (part: string): vec3 => point((side + part) as MarkName);
      set(`${side}Shoulder`, chest);
      const upper = between(p('Shoulder'), p('Elbow'));
      const fore = between(p('Elbow'), p('Wrist'));
      const bendAxis = this.hinge(upper, fore, -s, raised(chest, upper, s), 10, 30);
      const upperArm = turnFromXY(vec3.scale([0, 0, 0], upper, s), bendAxis);
      const foreArm = turnFromXY(vec3.scale([0, 0, 0], fore, s), bendAxis);
      const knuckles = middle(p('Index'), p('Pinky'));
      const { palm, across } = jointPalm(
        { palm: between(p('Wrist'), knuckles), across: between(p('Pinky'), p('Index')) },
        closer[side],
      );
      const hand = turnFromXY(
        vec3.scale([0, 0, 0], palm, s),
        vec3.cross([0, 0, 0], across, vec3.scale([0, 0, 0], palm, s)),
      );
      set(`${side}UpperArm`, upperArm);
      set(`${side}LowerArm`, twistTowards(foreArm, hand, 0.5));
      set(`${side}Hand`, hand);

      const thigh = between(p('Knee'), p('Hip'));
      const shin = between(p('Ankle'), p('Knee'));
      const foot = between(p('Heel'), p('FootIndex'));
      const straight = vec3.cross(
        [0, 0, 0],
        thigh,
        vec3.add([0, 0, 0], vec3.normalize([0, 0, 0], foot), axisOf(hips, 2)),
      );
      const kneeAxis = this.hinge(vec3.negate([0, 0, 0], thigh), vec3.negate([0, 0, 0], shin), 1, straight, 12, 40);
      set(`${side}UpperLeg`, turnFromYX(thigh, kneeAxis));
      set(`${side}LowerLeg`, turnFromYX(shin, kneeAxis));
      const ankle = turnFromZX(foot, kneeAxis);
      set(`${side}Foot`, ankle);
      set(`${side}Toes`, ankle);
    }
    return this.skeleton.joints.map((joint, i) => {
      const own = this.world[i];
      if (joint.parent < 0) return own;
      return quat.multiply([0, 0, 0, 1], quat.conjugate([0, 0, 0, 1], this.world[joint.parent]), own);
    });
  }

  /** The hinge's axis from the bend, or the given one the straighter the limb is. Degrees. */
  private hinge(first: vec3, second: vec3, sign: number, straight: vec3, low: number, high: number): vec3 {
    const axis = vec3.scale([0, 0, 0], vec3.cross([0, 0, 0], first, second), sign);
    const sine = vec3.length(axis) / (vec3.length(first) * vec3.length(second) || 1);
    const bend = (Math.asin(Math.min(1, sine)) * 180) / Math.PI;
    const weight = smoothStep(low, high, bend);
    vec3.normalize(axis, axis);
    const fallback = vec3.normalize([0, 0, 0], straight);
    // A hinge never turns over: an axis on the wrong side counts as straight.
    if (vec3.dot(axis, fallback) < 0 && weight < 1) return fallback;
    return vec3.lerp([0, 0, 0], fallback, axis, weight);
  }
}

/**
 * The elbow's axis of a straight arm: that of the T-pose, the chest's +Y, brought along as the arm is raised or lowered
 * the short way. So it always stands across the arm, up and down, too.
 */
function raised(chest: quat, arm: vec3, side: 1 | -1): vec3 {
  const outwards = vec3.scale([0, 0, 0], axisOf(chest, 0), side);
  const turn = quat.rotationTo([0, 0, 0, 1], outwards, vec3.normalize([0, 0, 0], arm));
  return vec3.transformQuat([0, 0, 0], axisOf(chest, 1), turn);
}

/** Turns a bone about its own +X so that it takes part of the next bone's twist. */
function twistTowards(turn: quat, goal: quat, share: number): quat {
  const relative = quat.multiply([0, 0, 0, 1], quat.conjugate([0, 0, 0, 1], turn), goal);
  const angle = 2 * Math.atan2(relative[0], relative[3]);
  const near = Math.atan2(Math.sin(angle), Math.cos(angle));
  return quat.multiply([0, 0, 0, 1], turn, quat.setAxisAngle([0, 0, 0, 1], [1, 0, 0], near * share));
}
