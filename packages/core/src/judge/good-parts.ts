import { runsWhere } from '../signal/runs';
import { FRAMED_PARTS, type Looks } from './looks';

/** Body heights in a second from which on somebody acts. */
const ACTING = 0.06;
/** From this share of its marks outside the picture on, a part is not wholly seen. */
const CUT_OFF = 0.34;
/** The longest pause within a part, the shortest part, and what is left before and after it, seconds. */
const PAUSE = 1.5;
const LEAST = 1.5;
const AROUND = 0.4;

/** Parts of a clip in which somebody is wholly seen and moves, within one shot each. Frames from … until − 1. */
export function goodParts(looks: Looks): { from: number; until: number }[] {
  const { at, rate, frames, cuts } = looks;
  const whole = at.map(
    (_, i) => looks.tall[i] !== null && FRAMED_PARTS.every((part) => (looks.outside[part][i] ?? 1) < CUT_OFF),
  );
  const acting = at.map((_, i) => whole[i] && (looks.moves[i] ?? 0) >= ACTING);
  const parts: { from: number; until: number }[] = [];
  const cutBefore = (i: number): boolean => i > 0 && cuts.some((cut) => cut > at[i - 1] && cut <= at[i]);
  const runs = runsWhere(at.length, (i) => acting[i]).flatMap(([first, end]) => {
    const begins = [first, ...Array.from({ length: end - first - 1 }, (_, k) => first + k + 1).filter(cutBefore)];
    return begins.map((begin, k) => [begin, begins[k + 1] ?? end]);
  });
  for (const [first, end] of runs) {
    const before = parts.at(-1);
    const [from, until] = [at[cutBefore(first) ? first : Math.max(0, first - 1)], at[end - 1]];
    const between = at.flatMap((frame, i) => (before && frame > before.until && frame < from ? [whole[i]] : []));
    const cut = before && cuts.some((frame) => frame > before.until && frame <= from);
    if (before && !cut && from - before.until <= PAUSE * rate && between.every(Boolean)) before.until = until;
    else parts.push({ from, until });
  }
  return parts
    .map(({ from, until }) => ({
      from: Math.max(0, lastCut(cuts, from), Math.round(from - AROUND * rate)),
      until: Math.min(frames, nextCut(cuts, from, frames), Math.round(until + AROUND * rate)),
    }))
    .filter(({ from, until }) => until - from >= LEAST * rate);
}

const lastCut = (cuts: readonly number[], frame: number): number => Math.max(0, ...cuts.filter((cut) => cut <= frame));
const nextCut = (cuts: readonly number[], frame: number, frames: number): number =>
  Math.min(frames, ...cuts.filter((cut) => cut > frame));
