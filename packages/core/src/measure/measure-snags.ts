import { holdPlants } from '../ground/hold-plants';
import { plantsFrom } from '../ground/plants';
import { copyMotion, type Motion } from '../motion/motion';
import { findSnags } from '../snags/registry';
import type { SnagKind } from '../snags/snag';
import type { SolePoint } from '../ground/floor';
import { PLANTERS } from './planted-faults';

/** How well one kind of fault is found. */
export interface SnagFigures {
  planted: number;
  found: number;
  /** Snags of this kind that lie nowhere near a planted fault. */
  false: number;
}

/** A fault that was put into a true motion. */
interface Fault {
  kind: SnagKind;
  from: number;
  until: number;
}

/**
 * Plants known faults into a true motion, one at a time, and counts which are found and what else is told.
 * @param contacts when its soles rest: where feet slide, sink and hover is told by them.
 * @param places first frames at which faults are planted.
 */
export function measureSnags(
  motion: Motion,
  contacts: Record<SolePoint['name'], ArrayLike<number>>,
  places: readonly number[],
): Partial<Record<SnagKind, SnagFigures>> {
  const clean = holdPlants(motion, plantsFrom(contacts));
  const before = new Set(findSnags({ motion: clean, plants: [], bridged: null }).map(nameOf));
  const figures: Partial<Record<SnagKind, SnagFigures>> = {};
  for (const [kind, { frames, sizes, plant }] of Object.entries(PLANTERS) as [
    SnagKind,
    (typeof PLANTERS)['pop'] & object,
  ][]) {
    const tally = (figures[kind] ??= { planted: 0, found: 0, false: 0 });
    for (const from of places) {
      const until = from + frames;
      if (from < 12 || until + 12 > motion.frames) continue;
      for (const size of sizes) {
        const faulty = copyMotion(clean);
        if (!plant(faulty, from, until, size)) continue;
        const fault: Fault = { kind, from, until };
        const told = findSnags({ motion: faulty, plants: [], bridged: null }).filter((snag) => snag.kind === kind);
        tally.planted++;
        if (told.some((snag) => near(snag, fault))) tally.found++;
        tally.false += told.filter((snag) => !near(snag, fault) && !before.has(nameOf(snag))).length;
      }
    }
  }
  return figures;
}

const nameOf = ({ kind, joint, from }: { kind: string; joint: string; from: number }): string =>
  `${kind} ${joint} ${from}`;
const near = (a: { from: number; until: number }, b: Fault): boolean => a.from < b.until + 4 && a.until > b.from - 4;
