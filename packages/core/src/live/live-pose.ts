import { quat } from 'gl-matrix';
import { FACE_SHAPES, shapeCurve, type FaceShape } from '../face/face-shapes';
import { lowestSole } from '../ground/floor';
import { learnedAngles } from '../hands/finger-map';
import { handTurns } from '../hands/finger-turns';
import { handShape } from '../hands/hand-shapes';
import { angleBetween } from '../hands/palm-course';
import { averageProportions, humanoidSkeleton, SIDES } from '../motion/humanoid';
import { restMotion, writeRotation, type Motion } from '../motion/motion';
import { smoothStep } from '../motion/turns-from-axes';
import { isSeen } from '../observe/body';
import type { Observations } from '../observe/observations';
import { partIsSeen } from '../observe/unseen';
import { USUAL_HEIGHT } from '../solve/body/proportions';
import { closerLook } from '../solve/start/closer-look';
import { PoseFromPoints } from '../solve/start/pose-from-points';
import { LiveFace } from './live-face';

/** What is calm follows within so many seconds, what moves fast within so many (to 1/e); turns between two pictures from which on a joint counts as fast, radians. */
const CALM = 0.12;
const FAST = 0.02;
const MOVES = [0.04, 0.3] as const;

/**
 * The pose of a performer who is followed live: each picture by itself, as the network's points have it, calmed by those before. Rough beside a solve, which knows a
 * whole take: bones are average, the body stays on the spot and stands on its lowest sole.
 */
export class LivePose {
  private readonly skeleton = humanoidSkeleton(averageProportions(USUAL_HEIGHT), true);
  /** What the network's points tell of it: no fingers. */
  private readonly body = humanoidSkeleton(averageProportions(USUAL_HEIGHT));
  private readonly poser = new PoseFromPoints(this.body);
  private readonly turns = new Map<string, quat>();
  private readonly shapes = new Map<FaceShape, number>();
  private readonly face = new LiveFace();

  /**
   * @param observations one picture.
   * @param seconds since the one before.
   * @returns a motion of one frame, always on the same skeleton; null where nobody is seen.
   */
  next(observations: Observations, seconds: number): Motion | null {
    if (!isSeen(observations, 0)) return null;
    this.poser
      .solve(observations.world, 0, closerLook(observations, 0))
      .forEach((turn, joint) => this.follow(this.body.joints[joint].name, turn, seconds));
    this.followHands(observations, seconds);
    this.followFace(observations, seconds);
    const motion = restMotion(this.skeleton, 1, 30);
    this.skeleton.joints.forEach(({ name }, joint) =>
      writeRotation(motion, joint, 0, this.turns.get(name) ?? [0, 0, 0, 1]),
    );
    motion.root[1] -= lowestSole(motion)[0];
    const curves = FACE_SHAPES.map((shape) => ({
      name: shapeCurve(shape),
      values: Float32Array.of(this.shapes.get(shape) ?? 0),
    }));
    return { ...motion, curves };
  }

  private followHands({ hands }: Observations, seconds: number): void {
    for (const side of SIDES) {
      const hand = hands?.[side];
      const seen = hand && partIsSeen(hand, 0);
      const pose = seen ? learnedAngles(hand, 0, side) : handShape('relaxed');
      for (const [bone, turn] of handTurns(side, pose)) this.follow(bone, turn, seconds);
    }
  }

  private followFace({ face }: Observations, seconds: number): void {
    const told = face && partIsSeen(face, 0) ? this.face.next(face) : new Map<FaceShape, number>();
    for (const shape of FACE_SHAPES) {
      const [now, value] = [this.shapes.get(shape) ?? 0, told.get(shape) ?? 0];
      this.shapes.set(shape, now + (value - now) * (seconds / (seconds + FAST)));
    }
  }

  /** Brings a joint nearer to a turn. */
  private follow(bone: string, turn: quat, seconds: number): void {
    const now = this.turns.get(bone);
    if (!now) return void this.turns.set(bone, turn);
    const within = CALM + (FAST - CALM) * smoothStep(...MOVES, angleBetween(now, turn));
    quat.slerp(now, now, turn, seconds / (seconds + within));
  }
}
