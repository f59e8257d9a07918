import { pitchOf } from '@merry-shadow/core/camera/pinhole';
import { limbLengthError } from '@merry-shadow/core/measure/measure-bones';
import { measureMotion } from '@merry-shadow/core/measure/measure-motion';
import type { Truth } from '@merry-shadow/core/measure/truth';
import { isSeen } from '@merry-shadow/core/observe/body';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { finishedMotion } from '@merry-shadow/core/edits/evaluate/take-evaluator';
import { SolveError, solveTake } from '@merry-shadow/core/solve/solve-take';
import { contactF1 } from '../contact-f1';
import { fieldOfViewOf, measuredClips, population, type PopulationChoice } from '../measured-clips';
import { tableLine } from '../table';

const DEGREES = 180 / Math.PI;

/** Figures of one clip, or means of several. */
interface FamilyRow {
  seen: number;
  pa: number;
  whole: number;
  paMm: number;
  wholeMm: number;
  nothingPa: number;
  nothing: number;
  bones: number;
  pitch: number;
  jerk: number;
  slide: number;
  off: number;
  contacts: number;
}

const COLUMNS: readonly (readonly [title: string, key: keyof FamilyRow, digits: number, factor?: number])[] = [
  ['seen %', 'seen', 0, 100],
  ['PA-MPJPE of raw', 'pa', 2],
  ['whole clip of raw', 'whole', 2],
  ['PA-MPJPE mm', 'paMm', 1],
  ['whole clip mm', 'wholeMm', 1],
  ['nothing given: PA-MPJPE of raw', 'nothingPa', 2],
  ['nothing given: whole clip of raw', 'nothing', 2],
  ['limb lengths off %', 'bones', 1, 100],
  ['pitch off °', 'pitch', 1],
  ['jerk ratio', 'jerk', 2],
  ['slide mm/frame', 'slide', 2],
  ['sink + hover mm', 'off', 1],
  ['contact F1', 'contacts', 2],
];

/**
 * Tracks and solves the clips of a population and prints the figures of each, of each builder's, and of all (means; medians, too,
 * since single clips that go wrong weigh heavily in jerk and slide).
 */
export async function measureFamilies(options: PopulationChoice): Promise<void> {
  const { scripts, folder } = await population(options);
  const families = new Map<string, FamilyRow[]>();
  const titles = ['clip', ...COLUMNS.map(([title]) => title)];
  process.stdout.write(tableLine(titles) + tableLine(titles.map(() => '---')));
  for await (const { name, tracked, truths } of measuredClips(scripts, folder)) {
    const row = measured(tracked[0], truths[0]);
    if (!row) {
      process.stdout.write(tableLine([name, 'nobody convincingly seen']));
      continue;
    }
    const family = name.split('-')[0];
    families.set(family, [...(families.get(family) ?? []), row]);
    process.stdout.write(tableLine([name, ...cells(row)]));
  }
  const all = [...families.values()].flat();
  for (const [family, rows] of families)
    process.stdout.write(tableLine([`**${family}** (${rows.length})`, ...cells(over(rows, mean))]));
  process.stdout.write(
    tableLine(['**all**', ...cells(over(all, mean))]) + tableLine(['**all**, median', ...cells(over(all, median))]),
  );
  process.stdout.write(`\nworst clip: PA-MPJPE ${Math.max(...all.map(({ pa }) => pa)).toFixed(2)} of raw\n`);
}

function measured(observations: Observations, truth: Truth): FamilyRow | null {
  try {
    const given = { height: truth.height, fieldOfView: fieldOfViewOf(truth) };
    const raw = measureMotion(solveTake(observations, { ...given, fit: false, smooth: false }).motion, truth);
    const solved = solveTake(observations, given);
    const own = measureMotion(finishedMotion(solved), truth);
    const nothing = measureMotion(finishedMotion(solveTake(observations)), truth);
    let seen = 0;
    for (let frame = 0; frame < observations.frames; frame++) if (isSeen(observations, frame)) seen++;
    return {
      seen: seen / observations.frames,
      pa: own.paMpjpeMm / raw.paMpjpeMm,
      whole: own.wholeClipMpjpeMm / raw.wholeClipMpjpeMm,
      paMm: own.paMpjpeMm,
      wholeMm: own.wholeClipMpjpeMm,
      nothingPa: nothing.paMpjpeMm / raw.paMpjpeMm,
      nothing: nothing.wholeClipMpjpeMm / raw.wholeClipMpjpeMm,
      bones: limbLengthError(solved.motion.skeleton, truth),
      pitch: Math.abs(pitchOf(solved.camera) - pitchOf(truth.camera)) * DEGREES,
      jerk: own.jerkRatio,
      slide: own.footSlideMmPerFrame,
      off: own.sinkingMm + own.hoveringMm,
      contacts: contactF1(solved, truth),
    };
  } catch (error) {
    if (error instanceof SolveError) return null;
    throw error;
  }
}

const known = (values: readonly number[]): number[] => values.filter((value) => !Number.isNaN(value));
const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1];

function over(rows: readonly FamilyRow[], by: (values: readonly number[]) => number): FamilyRow {
  return Object.fromEntries(
    COLUMNS.map(([, key]) => [key, by(known(rows.map((row) => row[key])))]),
  ) as unknown as FamilyRow;
}

const cells = (row: FamilyRow): string[] =>
  COLUMNS.map(([, key, digits, factor = 1]) => (Number.isNaN(row[key]) ? '–' : (row[key] * factor).toFixed(digits)));
