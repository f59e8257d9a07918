import { quat } from 'gl-matrix';
import type { PinholeCamera } from '../camera/pinhole';
import { SIDES, type Proportions, type Side } from '../motion/humanoid';
import { alignSigns, emptyPose, poseAt, readRotation, writeRotation, type Motion } from '../motion/motion';
import { chainOf, jointIndex } from '../motion/skeleton';
import { HAND_MARK_COUNT, type BothHands } from '../observe/hands';
import { partIsSeen } from '../observe/unseen';
import { fillGaps } from '../signal/fill-gaps';
import { settleColumns } from './calm';
import { HAND_ANGLES, handTurns } from './finger-turns';
import { learnedAngles } from './finger-map';
import { forearmTurns } from './forearm-turns';
import { handShape } from './hand-shapes';
import { handSights, wristAngles, type ForearmPlace } from './hand-sights';
import { withoutOthersHands } from './own-hands';
import { likeliestPalms } from './palm-course';
import { readHand } from './read-hand';
import { withFingers } from './with-fingers';

/**
 * Gives a solved body its hands: which way the palms lie on the forearms, and 15 finger joints each, over the whole shot. Where a hand was not seen it passes
 * over into what the body's marks tell, its fingers relaxed.
 * @param camera the one that filmed a frame, in the motion's world.
 * @returns a motion on a skeleton with fingers.
 */
export function solveHands(
  body: Motion,
  proportions: Proportions,
  camera: (frame: number) => PinholeCamera,
  seen: BothHands,
): Motion {
  const motion = withFingers(body, proportions);
  const hands = withoutOthersHands(seen);
  for (const side of SIDES) solveHand(motion, side, camera, hands);
  alignSigns(motion);
  return motion;
}

function solveHand(motion: Motion, side: Side, camera: (frame: number) => PinholeCamera, hands: BothHands): void {
  const { frames, rate } = motion;
  const hand = hands[side];
  const pointsAt = (frame: number): number => frame * HAND_MARK_COUNT * 3;
  const places = forearmPlaces(motion, side);
  const readings = places.map((_, frame) =>
    partIsSeen(hand, frame) ? readHand(hand.world, pointsAt(frame), side) : null,
  );
  const sights = readings.map((read, frame) =>
    read ? handSights(hand, frame, side, read, camera(frame), places[frame]) : [],
  );
  const chosen = likeliestPalms(sights, rate);
  const weights = new Float32Array(frames);
  const palms = new Float32Array(frames * 4);
  const poses = new Float32Array(frames * HAND_ANGLES);
  const relaxed = handShape('relaxed');
  for (let frame = 0; frame < frames; frame++) {
    const { forearm, hand: byBody } = places[frame];
    const turn = chosen[frame] < 0 ? byBody : sights[frame][chosen[frame]].turn;
    const relative = quat.multiply([0, 0, 0, 1], quat.conjugate([0, 0, 0, 1], forearm), turn);
    if (frame > 0 && quat.dot(relative, palms.subarray(frame * 4 - 4, frame * 4) as unknown as quat) < 0)
      quat.scale(relative, relative, -1);
    palms.set(relative, frame * 4);
    const read = readings[frame];
    weights[frame] = read ? hand.presence[frame] : 0;
    poses.set(read ? learnedAngles(hand, frame, side, read) : relaxed, frame * HAND_ANGLES);
  }
  fillGaps(palms, 4, weights, rate);
  fillGaps(poses, HAND_ANGLES, weights, rate);
  const calmPalms = settleColumns(palms, 4, rate);
  const calmPoses = settleColumns(poses, HAND_ANGLES, rate);
  const palm = (frame: number): quat => calmPalms.subarray(frame * 4, frame * 4 + 4) as unknown as quat;
  const turns = forearmTurns(
    Array.from({ length: frames }, (_, frame) => wristAngles(palm(frame)).twist),
    rate,
  );
  for (let frame = 0; frame < frames; frame++) {
    placeHand(motion, side, frame, palm(frame), turns[frame]);
    const pose = calmPoses.subarray(frame * HAND_ANGLES, (frame + 1) * HAND_ANGLES);
    for (const [bone, turn] of handTurns(side, pose))
      writeRotation(motion, jointIndex(motion.skeleton, bone), frame, turn);
  }
}

/** How forearm and hand lie in each frame. */
function forearmPlaces(motion: Motion, side: Side): ForearmPlace[] {
  const index = (part: string): number => jointIndex(motion.skeleton, side + part);
  const [upper, lower, end] = [index('UpperArm'), index('LowerArm'), index('Hand')];
  const chain = chainOf(motion.skeleton, [end]);
  const pose = emptyPose(motion.skeleton);
  const turnOf = (joint: number): quat => Array.from(pose.rotations.subarray(joint * 4, joint * 4 + 4)) as quat;
  return Array.from({ length: motion.frames }, (_, frame) => {
    poseAt(motion, frame, pose, chain);
    const hinge = hingeOf(readRotation(motion, lower, frame, [0, 0, 0, 1]));
    return {
      forearm: quat.multiply([0, 0, 0, 1], turnOf(upper), hinge),
      elbow: 2 * Math.acos(Math.min(1, Math.abs(hinge[3]))),
      hand: turnOf(end),
    };
  });
}

/** The part of a forearm's turn that the elbow's hinge makes, about +Y. */
function hingeOf(turn: quat): quat {
  const hinge: quat = [0, turn[1], 0, turn[3]];
  return Math.hypot(hinge[1], hinge[3]) < 1e-6 ? [0, 0, 0, 1] : quat.normalize(hinge, hinge);
}

/** Sets forearm and hand of a frame. @param relative the hand against the forearm without its twist. @param turn that twist, radians. */
function placeHand(motion: Motion, side: Side, frame: number, relative: quat, turn: number): void {
  const [lower, end] = ['LowerArm', 'Hand'].map((part) => jointIndex(motion.skeleton, side + part));
  const about = quat.setAxisAngle([0, 0, 0, 1], [1, 0, 0], turn);
  const hinge = hingeOf(readRotation(motion, lower, frame, [0, 0, 0, 1]));
  writeRotation(motion, lower, frame, quat.multiply([0, 0, 0, 1], hinge, about));
  writeRotation(motion, end, frame, quat.multiply([0, 0, 0, 1], quat.conjugate([0, 0, 0, 1], about), relative));
}
