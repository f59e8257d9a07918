import type { Motion } from '../../motion/motion';
import { normaliseQuaternions } from '../../signal/gaussian';
import { neverTurns } from '../../signal/joint-columns';
import { whittakerColumns } from '../../signal/whittaker';
import { aroundEach, differences, SECOND } from '../differences';

/** What is halved of a joint at rest, and at most, Hz; the first look at how fast it is smooths by this. */
const REST = 2;
const MOST = 14;
const FIRST = 5;
/** Hz that are added for each rad/s² of a joint and each m/s² of the path. */
const FOR_TURNS = 0.15;
const FOR_PATH = 1;
/** Seconds to either side over which accelerations count together. */
const AROUND = 0.1;

/**
 * Takes out what the fit leaves of shake: quick trembling goes, swings keep their height. How quick a joint may be follows
 * from how strongly it speeds up there, so that blows stay sharp and rest is calm. Turns have aligned signs.
 * Changes the motion in place.
 */
export function easeMotion(motion: Motion): void {
  const { frames, rate, rotations, root } = motion;
  for (let joint = 0; joint < motion.skeleton.joints.length; joint++) {
    if (neverTurns(motion, joint)) continue;
    const turns = rotations.subarray(joint * frames * 4, (joint + 1) * frames * 4);
    // A quaternion changes by half the angle.
    turns.set(normaliseQuaternions(eased(turns, 4, rate, 2 * FOR_TURNS)));
  }
  root.set(eased(root, 3, rate, FOR_PATH));
}

/** @param more Hz for each unit of the columns' acceleration a s². */
function eased(columns: Float32Array, width: number, rate: number, more: number): Float32Array {
  const count = columns.length / width;
  const cut = (hertz: number): number => (hertz * 2 * Math.PI) / rate;
  const calm = whittakerColumns(columns, width, new Float64Array(count).fill(cut(FIRST)));
  const squares = differences(calm, width, SECOND, new Float64Array(count).fill(rate * rate));
  const cuts = aroundEach(squares, Math.round(AROUND * rate)).map((acceleration) =>
    cut(Math.min(MOST, REST + more * acceleration)),
  );
  return whittakerColumns(columns, width, cuts);
}
