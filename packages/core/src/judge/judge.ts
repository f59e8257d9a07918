import { median } from '../signal/joint-columns';
import { runsWhere } from '../signal/runs';
import { spanOfLook, type LookColumn, type Looks } from './looks';

export const JUDGED = [
  'nobody',
  'framing',
  'size',
  'light',
  'burnt',
  'blur',
  'contrast',
  'noise',
  'compression',
  'camera',
  'cuts',
  'people',
  'rate',
  'pose',
  'face',
] as const;
export type JudgedKind = (typeof JUDGED)[number];

/** Something about a clip that will cost quality, with what to do about it. */
export interface Judgement {
  kind: JudgedKind;
  /** 0 hardly worth a word … 1 the take will not be usable. */
  severity: number;
  /** Frames from … until − 1. */
  from: number;
  until: number;
  /** What is wrong, in a sentence. */
  says: string;
  /** What to do, in a sentence. */
  advice: string;
}

/** One kind of judgement: a file measures it and finds its words. */
export interface Judge {
  kind: JudgedKind;
  title: string;
  /** What it weighs, for the chart: a column of the looks and its unit. */
  chart?: { column: LookColumn; title: string; unit: string; factor?: number };
  /** How bad each look is: 0 fine … 1 as bad as it can be; null where that is not told. */
  badness: (looks: Looks) => (number | null)[];
  find: (looks: Looks) => Judgement[];
}

/** A stretch of bad looks. */
export interface Stretch {
  /** Looks first … last. */
  first: number;
  last: number;
  from: number;
  until: number;
  /** Mean badness. */
  badness: number;
  /** 0 … 1 of the clip. */
  share: number;
}

/** From here on a look counts as bad. */
export const BAD = 0.5;
/** The shortest stretch that is worth a word, and the longest pause within one, seconds; a single look proves nothing. */
const LEAST = 0.5;
const PAUSE = 1;

/** 0 up to a value that is fine, rising to 1 at one that is as bad as it can be. */
export const between = (value: number | null, fine: number, bad: number): number | null =>
  value === null ? null : Math.min(1, Math.max(0, (value - fine) / (bad - fine)));

/** Stretches of looks that are bad, with short pauses within them. */
export function badStretches(looks: Looks, badness: readonly (number | null)[], least = LEAST): Stretch[] {
  const runs = runsWhere(looks.at.length, (i) => (badness[i] ?? 0) >= BAD).map(([first, end]) => [first, end - 1]);
  const joined: number[][] = [];
  for (const [first, last] of runs) {
    const before = joined.at(-1);
    if (before && looks.at[first] - looks.at[before[1]] <= PAUSE * looks.rate) before[1] = last;
    else joined.push([first, last]);
  }
  return joined
    .map(([first, last]): Stretch => {
      const [from, until] = [spanOfLook(looks, first)[0], spanOfLook(looks, last)[1]];
      const bad = badness.slice(first, last + 1).flatMap((value) => (value !== null && value >= BAD ? [value] : []));
      return {
        first,
        last,
        from,
        until,
        badness: bad.reduce((sum, value) => sum + value, 0) / bad.length,
        share: (until - from) / looks.frames,
      };
    })
    .filter(
      ({ first, last, from, until }) =>
        (last > first || looks.at.length === 1) && until - from >= Math.min(least * looks.rate, looks.frames),
    );
}

/** A judgement of a stretch: how bad it is grows with its length. @param weight of its kind, 0 … 1. */
export const ofStretch = (
  kind: JudgedKind,
  { badness, share, from, until }: Stretch,
  weight: number,
  says: string,
  advice: string,
): Judgement => ({ kind, severity: weight * badness * (0.5 + 0.5 * Math.sqrt(share)), from, until, says, advice });

/** A judgement of the whole clip. */
export const ofWhole = (
  kind: JudgedKind,
  { frames }: Looks,
  severity: number,
  says: string,
  advice: string,
): Judgement => ({ kind, severity, from: 0, until: frames, says, advice });

/** How bad that is, in steps that a person tells apart. */
export const JUDGED_LEVELS = ['minor', 'worth mending', 'serious'] as const;
export const levelOf = (severity: number): (typeof JUDGED_LEVELS)[number] =>
  JUDGED_LEVELS[severity >= 0.45 ? 2 : severity >= 0.2 ? 1 : 0];

/** Where in the clip, in words. */
export function whenWords({ from, until }: { from: number; until: number }, { frames, rate }: Looks): string {
  const seconds = (frame: number): string => `${(frame / rate).toFixed(1)} s`;
  if (until - from >= 0.9 * frames) return 'all through';
  if (from <= 0.5 * rate) return `up to ${seconds(until)}`;
  if (until >= frames - 0.5 * rate) return `from ${seconds(from)} on`;
  return `from ${seconds(from)} to ${seconds(until)}`;
}

/** The median of what looks tell; null where none tells anything. */
export function medianOf(values: readonly (number | null)[]): number | null {
  const told = values.filter((value) => value !== null);
  return told.length > 0 ? median(told) : null;
}
