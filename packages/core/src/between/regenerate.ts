import { quat } from 'gl-matrix';
import { bodyPartOf, type BodyPart } from '../motion/body-parts';
import { alignSigns, copyMotion, readRotation, writeRotation, type Motion } from '../motion/motion';
import { rotationVector, turnOfVector } from '../motion/rotation-vector';
import { bridgeValues } from '../signal/bridge';
import { GOES_ON, knownFrames, likeliestShares } from './likeliest-course';

/**
 * Makes the motion anew over a range from what is on both sides of it: the likeliest course of something that moves as people do (see `likeliestShares`). Near an end it goes on
 * with the speed there; the longer the range, the less of that is left in the middle. Turns run as rotation vectors from the turn on the first side, so that limbs go in arcs. At an end of the take there is but one side, near which the motion comes to rest.
 * @param from first frame that is made anew. @param until the one after the last.
 * @param chosen which parts are made anew.
 * @returns a new motion; the input is left alone.
 */
export function regenerate(
  motion: Motion,
  from: number,
  until: number,
  chosen: (part: BodyPart) => boolean = () => true,
): Motion {
  const [a, b] = [from - 1, until];
  const out = copyMotion(motion);
  if (until <= from || (a < 0 && b >= motion.frames)) return out;
  if (chosen('root')) {
    const read = (frame: number): number[] => [...motion.root.subarray(frame * 3, frame * 3 + 3)];
    fill(motion, a, b, GOES_ON.place, read, (frame, place) => out.root.set(place, frame * 3));
  }
  motion.skeleton.joints.forEach(({ name }, joint) => {
    if (!chosen(bodyPartOf(name))) return;
    const origin = readRotation(motion, joint, a < 0 ? b : a, quat.create());
    const back = quat.conjugate(quat.create(), origin);
    const turn = quat.create();
    const read = (frame: number): number[] => {
      quat.multiply(turn, back, readRotation(motion, joint, frame, turn));
      return rotationVector(turn);
    };
    fill(motion, a, b, GOES_ON.turns, read, (frame, vector) =>
      writeRotation(out, joint, frame, quat.multiply(turn, origin, turnOfVector(vector))),
    );
  });
  if (chosen('face')) for (const { values } of out.curves) bridgeValues(values, from, until);
  alignSigns(out);
  return out;
}

/** Fills a course between frames a and b, both of which stay. */
function fill(
  { frames, rate }: Motion,
  a: number,
  b: number,
  goesOn: number,
  read: (frame: number) => number[],
  write: (frame: number, value: number[]) => void,
): void {
  const known = knownFrames(a, b, frames, rate);
  const values = known.map(read);
  for (const [frame, shares] of likeliestShares(known, a + 1, b, rate, goesOn))
    write(
      frame,
      values[0].map((_, k) => shares.reduce((sum, share, i) => sum + share * values[i][k], 0)),
    );
}
