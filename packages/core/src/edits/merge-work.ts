import { kindOf } from './registry';
import { changeBetween, same, withChange, type Work } from './work';

/** Work of two windows brought together. */
export interface MergedWork {
  work: Work;
  /** What both changed differently, in words; the person's own stands. */
  conflicts: string[];
}

/**
 * Brings together what two windows made of the same take, field by field and record by record (a three-way merge): what only one changed,
 * added or took away counts; where both changed the same differently, the person's own stands and it is told.
 * @param base what both began with. @param own this window's. @param theirs what was stored meanwhile.
 */
export function mergeWork(base: Work, own: Work, theirs: Work): MergedWork {
  const [mine, other] = [changeBetween(base, own), changeBetween(base, theirs)];
  const conflicts = [
    ...clashes(mine.fields, other.fields).map(fieldWords),
    ...clashes(mine.records, other.records).map((id) => {
      const [was, is] = mine.records[id];
      const record = is ?? was ?? other.records[id][1];
      return record ? kindOf(record).words(record) : id;
    }),
  ];
  return { work: withChange(theirs, mine), conflicts };
}

/** Names that both changed, and not to the same. */
const clashes = <T>(mine: Record<string, readonly [T, T]>, other: Record<string, readonly [T, T]>): string[] =>
  Object.keys(mine).filter((name) => name in other && !same(mine[name][1], other[name][1]));

const FIELD_WORDS: Record<string, string> = {
  fromFrame: 'the in point',
  untilFrame: 'the out point',
  name: 'the name',
};

const fieldWords = (name: string): string => FIELD_WORDS[name] ?? `the setting "${name.replace('settings.', '')}"`;
