import { vec3, type quat } from 'gl-matrix';
import { averageProportions, fingerBones, FINGERS, humanoidSkeleton, type Side } from '../src/motion/humanoid';
import { emptyPose, poseAt, restMotion, writeRotation } from '../src/motion/motion';
import { jointIndex } from '../src/motion/skeleton';
import { HAND_MARK_COUNT } from '../src/observe/hands';
import { handTurns, type HandPose } from '../src/hands/finger-turns';

/** The 21 points of a made-up hand in a pose that is turned in the world: what a network without mistakes would tell. For tests. */
export function exampleHand(side: Side, pose: HandPose, turn: quat = [0, 0, 0, 1]): Float32Array {
  const skeleton = humanoidSkeleton(averageProportions(1.75), true);
  const motion = restMotion(skeleton, 1, 30);
  for (const [bone, local] of handTurns(side, pose)) writeRotation(motion, jointIndex(skeleton, bone), 0, local);
  writeRotation(motion, jointIndex(skeleton, `${side}Hand`), 0, turn);
  const posed = poseAt(motion, 0, emptyPose(skeleton));
  const points = new Float32Array(HAND_MARK_COUNT * 3);
  const hand = jointIndex(skeleton, `${side}Hand`) * 3;
  const put = (mark: number, place: readonly number[]): void =>
    points.set(
      place.map((value, k) => value - posed.positions[hand + k]),
      mark * 3,
    );
  put(0, [...posed.positions.subarray(hand, hand + 3)]);
  FINGERS.forEach((finger, f) => {
    const joints = fingerBones(finger).map((bone) => jointIndex(skeleton, side + finger + bone));
    joints.forEach((joint, i) => put(f * 4 + 1 + i, [...posed.positions.subarray(joint * 3, joint * 3 + 3)]));
    const last = joints[2];
    const turned = [...posed.rotations.subarray(last * 4, last * 4 + 4)] as quat;
    const tip = vec3.transformQuat([0, 0, 0], [...(skeleton.joints[last].tip as vec3)] as vec3, turned);
    put(
      f * 4 + 4,
      [...tip].map((value, k) => value + posed.positions[last * 3 + k]),
    );
  });
  return points;
}
