import { quat, vec3 } from 'gl-matrix';
import type { PinholeCamera } from '../camera/pinhole';
import type { Side } from '../motion/humanoid';
import { HAND_MARK_COUNT, type HandObservations } from '../observe/hands';
import { wholeBend } from './finger-turns';
import type { PalmSight } from './palm-course';
import { readHand, type HandReading } from './read-hand';

/** What a hand may be taken for, and how unlikely that is before anything else is known. */
const AS_READ = 0;
const MIRRORED = 1.5;
const BACK_FOR_PALM = 2.5;
const BY_THE_BODY = 4;

/** Fingers bend towards the palm: mean bend of four fingers below which a sight is doubted, and by how much, radians. */
const LEAST_BEND = -0.2;
const BEND_SPREAD = 0.4;

/**
 * How far a hand goes against the forearm, and how far beyond that it is doubted, radians: turned about it, bent up or down, aside. Rounded
 * from the ranges of motion in J. Boone and S. Azen, "Normal range of motion of joints in male subjects" (1979).
 */
const TURNED = { most: 1.6, spread: 0.5 };
const BENT = { most: 1.35, spread: 0.35 };
const ASIDE = { most: 0.6, spread: 0.25 };
/** Which way an elbow's hinge points, and with it the forearm's turn, shows the less the straighter the arm is: bends, radians. */
const STRAIGHT = 0.25;
const CLEARLY_BENT = 0.7;
const UNKNOWN_TURN = 1.2;

/** Where a hand lies on the forearm in a frame of the solved body. */
export interface ForearmPlace {
  /** Turn of the forearm in the world, its own twist left out. */
  forearm: quat;
  /** Bend of the elbow, radians. */
  elbow: number;
  /** The hand by the body's marks, in the world. */
  hand: quat;
}

/**
 * The ways in which a hand that was seen may lie: as read, mirrored in depth, back taken for palm, and as the body's marks have it.
 * @param read the hand as its points stand.
 */
export function handSights(
  hand: HandObservations,
  frame: number,
  side: Side,
  read: HandReading,
  camera: PinholeCamera,
  place: ForearmPlace,
): PalmSight[] {
  const world = hand.world.subarray(frame * HAND_MARK_COUNT * 3, (frame + 1) * HAND_MARK_COUNT * 3);
  const mirrored = world.map((value, i) => (i % 3 === 2 ? -value : value));
  const toWorld = viewTurn(
    camera,
    hand.marks[frame * HAND_MARK_COUNT * 2],
    hand.marks[frame * HAND_MARK_COUNT * 2 + 1],
  );
  const mirror = readHand(mirrored, 0, side);
  const halfTurn = quat.multiply([0, 0, 0, 1], read.turn, [1, 0, 0, 0]);
  const inWorld = (turn: quat): quat => quat.multiply([0, 0, 0, 1], toWorld, turn);
  const bend = meanBend(read.angles);
  const sights: [quat, number][] = [
    [inWorld(read.turn), AS_READ + againstFingers(bend)],
    [inWorld(mirror.turn), MIRRORED + againstFingers(meanBend(mirror.angles))],
    [inWorld(halfTurn), BACK_FOR_PALM + againstFingers(-bend)],
    [place.hand, BY_THE_BODY],
  ];
  return sights.map(([turn, cost]) => ({ turn, cost: cost + againstForearm(turn, place) }));
}

/** The turn from the axes in which something at a place of the picture is seen to the world's. */
function viewTurn({ axes, focal, width, height }: PinholeCamera, x: number, y: number): quat {
  const a = axes as unknown as [number, number, number, number, number, number, number, number, number];
  const camera = quat.normalize([0, 0, 0, 1], quat.fromMat3([0, 0, 0, 1], a));
  const ray = vec3.normalize([0, 0, 0], [x - width / 2, height / 2 - y, -focal]);
  return quat.multiply([0, 0, 0, 1], camera, quat.rotationTo([0, 0, 0, 1], [0, 0, -1], ray));
}

/** Mean bend of index to little finger over all their joints, radians. */
const meanBend = (angles: Float64Array): number =>
  [1, 2, 3, 4].reduce((sum, finger) => sum + wholeBend(angles, finger) / 4, 0);

const againstFingers = (bend: number): number => 0.5 * (Math.min(0, bend - LEAST_BEND) / BEND_SPREAD) ** 2;

function againstForearm(turn: quat, { forearm, elbow }: ForearmPlace): number {
  const { twist, bent, aside } = wristAngles(quat.multiply([0, 0, 0, 1], quat.conjugate([0, 0, 0, 1], forearm), turn));
  const told = Math.min(1, Math.max(0, (elbow - STRAIGHT) / (CLEARLY_BENT - STRAIGHT)));
  const beyond = (angle: number, { most, spread }: typeof BENT): number =>
    0.5 * (Math.max(0, Math.abs(angle) - most) / spread) ** 2;
  const turned = { ...TURNED, most: TURNED.most + (1 - told) * UNKNOWN_TURN };
  return Math.min(12, beyond(twist, turned) + beyond(bent, BENT) + beyond(aside, ASIDE));
}

/** How a hand lies against its forearm, radians: turned about it, bent (about its +Z), aside (about its +Y). */
export function wristAngles(relative: quat): { twist: number; bent: number; aside: number } {
  const angle = 2 * Math.atan2(relative[0], relative[3]);
  const twist = Math.atan2(Math.sin(angle), Math.cos(angle));
  const about = quat.setAxisAngle([0, 0, 0, 1], [1, 0, 0], twist);
  const swing = quat.multiply([0, 0, 0, 1], quat.conjugate([0, 0, 0, 1], about), relative);
  const sign = swing[3] < 0 ? -1 : 1;
  return { twist, bent: 2 * Math.asin(clamped(sign * swing[2])), aside: 2 * Math.asin(clamped(sign * swing[1])) };
}

const clamped = (value: number): number => Math.min(1, Math.max(-1, value));
