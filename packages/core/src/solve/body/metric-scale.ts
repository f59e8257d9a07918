import { isSeen, MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';
import { median } from '../../signal/joint-columns';
import { SIDES } from '../../motion/humanoid';
import { markDepth } from './joint-offsets';

/** Bones that are long, and thick enough for a depth camera to tell where they lie. */
const BONES = [
  ['Shoulder', 'Hip'],
  ['Hip', 'Knee'],
  ['Knee', 'Ankle'],
] as const;
/** A bone counts where so much of it lies across the view: there the skin's thickness matters little. */
const ACROSS = 0.9;
const SEEN = 0.7;
const LEAST = 20;
/** How much farther apart marks lie on a body than its height tells; from the clips of the workshop. */
const APART = 1.034;
/** A body of this height, metres, tells how deep joints lie below the skin. */
const USUAL = 1.7;

/**
 * Metres for one metre of the network, as a depth camera tells them: the median of how long bones are between marks that
 * are carried out to their depths, against the network's own.
 * @param focal the camera's focal length, pixels.
 * @returns NaN without a depth camera, or where it told too little.
 */
export function metricScale(observations: BodyObservations, focal: number): number {
  const { frames, marks, world, depth, width, height } = observations;
  if (!depth) return NaN;
  const place = (frame: number, mark: MarkName): [number, number, number] => {
    const at = frame * MARK_COUNT + MARK[mark];
    const far = depth[at] + markDepth(mark) * USUAL;
    return [((marks[at * 3] - width / 2) / focal) * far, ((marks[at * 3 + 1] - height / 2) / focal) * far, far];
  };
  const ratios: number[] = [];
  for (let frame = 0; frame < frames; frame++) {
    if (!isSeen(observations, frame)) continue;
    for (const side of SIDES) {
      for (const [from, to] of BONES) {
        const ends = [`${side}${from}`, `${side}${to}`] as [MarkName, MarkName];
        const [a, b] = ends.map((mark) => (frame * MARK_COUNT + MARK[mark]) * 3);
        if (Math.min(marks[a + 2], marks[b + 2]) < SEEN) continue;
        const [p, q] = ends.map((mark) => place(frame, mark));
        const real = Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
        if (Math.hypot(p[0] - q[0], p[1] - q[1]) < ACROSS * real) continue;
        const told = Math.hypot(world[a] - world[b], world[a + 1] - world[b + 1], world[a + 2] - world[b + 2]);
        if (real / told > 0) ratios.push(real / told);
      }
    }
  }
  return ratios.length < LEAST ? NaN : median(ratios) / APART;
}
