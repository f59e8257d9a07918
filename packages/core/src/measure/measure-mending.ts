import { TakeEvaluator, type Evaluated } from '../edits/evaluate/take-evaluator';
import { mendAll, openSnags, recordsFor, tryMend } from '../edits/mend-snags';
import { NO_EDITS } from '../edits/take-edits';
import type { Unseen } from '../observe/unseen';
import { findSnags, graveness } from '../snags/registry';
import { isSameSnag, type Snag, type SnagKind } from '../snags/snag';
import { measureMotion } from './measure-motion';
import { trueMotion } from './true-motion';
import type { Truth } from './truth';

/** What became of the snags of one kind in a solved take. */
export interface MendingFigures {
  told: number;
  /** Snags that the true motion has there, too: lively acting. */
  acting: number;
  /** Snags with a mending that was tried and found good. */
  offered: number;
  /** Mendings after which the whole clip lies farther from the truth. */
  farther: number;
}

export interface MendingResult {
  kinds: Partial<Record<SnagKind, MendingFigures>>;
  /** Snags before and after "mend all", and with the first proposal for each taken untried. */
  before: number;
  after: number;
  untried: number;
  /** Whole-clip distance to the truth, millimetres. */
  beforeMm: number;
  afterMm: number;
  untriedMm: number;
}

/** A snag that is less grave than this is not seen by most. */
const SEEN = 1;
/** The true motion has a snag, too, where it has one of that part of the graveness. */
const LIKE_TRUTH = 0.5;
/** What counts as farther from the truth, millimetres of the whole clip. */
const FARTHER = 0.02;

/** Mends the snags of a solved take, each by itself and all together, and compares with the truth. Hands and face that were not seen are left out: only a person can act them. */
export function measureMending(solved: Evaluated & { unseen?: Unseen }, truth: Truth): MendingResult {
  const evaluator = new TakeEvaluator(solved);
  const known = { bridged: solved.bridged, contacts: solved.contacts };
  const { motion, snags } = openSnags(evaluator, NO_EDITS, known);
  const trueSnags = findSnags({ motion: trueMotion(truth), plants: [], bridged: null });
  const farFrom = (edited = motion): number => measureMotion(edited, truth).wholeClipMpjpeMm;
  const [beforeMm, newId] = [farFrom(), ids()];
  const kinds: MendingResult['kinds'] = {};
  let naive = NO_EDITS;
  for (const snag of snags) {
    const figures = (kinds[snag.kind] ??= { told: 0, acting: 0, offered: 0, farther: 0 });
    if (graveness(snag) >= SEEN) {
      figures.told++;
      if (trueSnags.some((own) => isLike(own, snag))) figures.acting++;
    }
    const [first] = snag.mends;
    if (first) naive = { ...naive, records: [...naive.records, ...recordsFor(first, newId)] };
    const tried = tryMend(evaluator, NO_EDITS, known, snag, snags, newId);
    if (!tried) continue;
    figures.offered++;
    if (farFrom(tried.motion) > beforeMm + FARTHER) figures.farther++;
  }
  const all = mendAll(evaluator, NO_EDITS, known, newId);
  const untried = openSnags(evaluator, naive, known);
  return {
    kinds,
    before: snags.length,
    after: all.snags.length,
    untried: untried.snags.length,
    beforeMm,
    afterMm: farFrom(evaluator.untimed(all.edits)),
    untriedMm: farFrom(untried.motion),
  };
}

const isLike = (own: Snag, snag: Snag): boolean =>
  isSameSnag(own, snag) && graveness(own) >= LIKE_TRUTH * graveness(snag);

function ids(): () => string {
  let next = 0;
  return () => `m${next++}`;
}
