import { alignSigns, copyMotion, type Motion } from '../motion/motion';
import { solePoints } from '../ground/floor';
import { momentsOnly, type BodyObservations } from '../observe/body';
import { sliceFootage } from '../observe/slice-footage';
import { cameraTurns, withSteadyView } from '../observe/steady-view';
import { withSidesApart } from '../observe/told-apart';
import { sampleMotion } from '../signal/sample-motion';
import { easeMotion } from './after/ease';
import { withFeetAhead } from './observe/feet-ahead';
import { agilities } from './fit/agility';
import { FIT_WEIGHTS } from './fit/evidence';
import { fitWindow } from './fit/fit-window';
import { prepareHinges, restoreLimbs } from './fit/hinges';
import type { Correction } from './network/network-correction';
import { shotAt } from './shots/shots';
import type { SolvedTake } from './solved';
import { withCorrection } from './network/with-correction';

/** Seconds to either side of a change that are solved again, and frames at each end that stay as they are. */
const AROUND = 0.4;
const HELD = 3;
/** Seconds beyond it that are looked at, too. */
const CONTEXT = 1.5;
const STEPS = 2;
const DAMPING = 4;

/**
 * Solves the neighbourhood of changed frames again, from the motion as it is: bones, camera, floor and contacts
 * stay. It lies within the shot of the first changed frame; its ends are held, so that it joins the rest without a seam.
 * @param observations of the whole take, with the change in them.
 * @param from first changed frame. @param until the one after the last.
 * @param correction see `SolveOptions`.
 * @returns a new motion; the solved take is left alone.
 */
export function refitAround(
  solved: SolvedTake,
  observations: BodyObservations,
  from: number,
  until: number,
  correction?: Correction | null,
): Motion {
  const { motion, body, contacts } = solved;
  const { camera, ...shot } = shotAt(solved.shots, from);
  const reach = Math.round(AROUND * motion.rate);
  const [first, end] = [Math.max(shot.from, from - reach), Math.min(shot.until, until + reach)];
  const count = end - first;
  const part = sampleMotion(
    motion,
    Float64Array.from({ length: count }, (_, i) => first + i),
    motion.rate,
  );
  // Which leg is which and how freely arms swing show from what goes on around, too.
  const margin = Math.round(CONTEXT * motion.rate);
  const start = Math.max(shot.from, first - margin);
  const stop = Math.min(shot.until, end + margin);
  const moments = momentsOnly(observations);
  const filmed = sliceFootage(moments, shot.from, shot.until);
  const turns = solved.turned > 0 ? cameraTurns(filmed, camera.focal) : null;
  const steady = withSteadyView(
    sliceFootage(moments, start, stop),
    turns && turns.slice(start - shot.from, stop - shot.from),
    camera.focal,
  );
  const around = withCorrection(withFeetAhead(withSidesApart(steady)), body, camera.focal, correction);
  const inside = [first - start, end - start] as const;
  const held = first === shot.from ? 0 : HELD;
  const heldAfter = end === shot.until ? 0 : HELD;
  const prepared = prepareHinges(part);
  const resting = contacts && solePoints(motion).map(({ name }) => contacts[name].slice(first, end));
  const agile = [...agilities(around, body.scale)].map(
    ([mark, { across, along }]) =>
      [mark, { across: across.subarray(...inside), along: along.subarray(...inside) }] as const,
  );
  fitWindow(
    prepared.motion,
    {
      observations: sliceFootage(around, ...inside),
      agilities: new Map(agile),
      camera,
      scale: body.scale,
      height: body.proportions.height,
      contacts: resting,
      slack: 1,
      damping: DAMPING,
      weights: FIT_WEIGHTS,
    },
    STEPS,
    { first: 0, until: count, held, heldAfter },
  );
  restoreLimbs(prepared);
  alignSigns(prepared.motion);
  easeMotion(prepared.motion);
  const out = copyMotion(motion);
  for (let joint = 0; joint < motion.skeleton.joints.length; joint++)
    out.rotations.set(
      prepared.motion.rotations.subarray((joint * count + held) * 4, ((joint + 1) * count - heldAfter) * 4),
      (joint * motion.frames + first + held) * 4,
    );
  out.root.set(prepared.motion.root.subarray(held * 3, (count - heldAfter) * 3), (first + held) * 3);
  alignSigns(out);
  return out;
}
