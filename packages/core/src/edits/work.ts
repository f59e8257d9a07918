import type { EditRecord } from './registry';
import type { TakeEdits } from './take-edits';

/**
 * Everything about a take that a person works on: fields by name ("name", "settings.height", …) and the document of edits. Undo, revisions,
 * saving and merging all go by it.
 */
export interface Work {
  fields: Readonly<Record<string, unknown>>;
  edits: TakeEdits;
}

/** A value before and after; a record that was not there is null. */
type Pair<T> = readonly [before: T, after: T];

/** What is different between two states of a take's work, field by field and record by record; it can be turned round. */
export interface WorkChange {
  fields: Record<string, Pair<unknown>>;
  records: Record<string, Pair<EditRecord | null>>;
  /** Ids in their order, where that changed. */
  order: Pair<readonly string[]> | null;
  foundPlants: Pair<boolean> | null;
}

/** What leads from one state to another. */
export function changeBetween(before: Work, after: Work): WorkChange {
  const fields: WorkChange['fields'] = {};
  for (const name of new Set([...Object.keys(before.fields), ...Object.keys(after.fields)]))
    if (!same(before.fields[name], after.fields[name])) fields[name] = [before.fields[name], after.fields[name]];
  const [was, is] = [before, after].map(({ edits }) => new Map(edits.records.map((record) => [record.id, record])));
  const records: WorkChange['records'] = {};
  for (const id of new Set([...was.keys(), ...is.keys()]))
    if (!same(was.get(id), is.get(id))) records[id] = [was.get(id) ?? null, is.get(id) ?? null];
  const [from, to] = [before, after].map(({ edits }) => edits.records.map(({ id }) => id));
  const [a, b] = [before.edits.foundPlants, after.edits.foundPlants];
  return { fields, records, order: same(from, to) ? null : [from, to], foundPlants: a === b ? null : [a, b] };
}

export const isEmptyChange = ({ fields, records, order, foundPlants }: WorkChange): boolean =>
  Object.keys(fields).length === 0 && Object.keys(records).length === 0 && order === null && foundPlants === null;

/** The change that takes another one back. */
export function turnedRound({ fields, records, order, foundPlants }: WorkChange): WorkChange {
  const turn = <T>([before, after]: Pair<T>): Pair<T> => [after, before];
  const all = <T>(pairs: Record<string, Pair<T>>): Record<string, Pair<T>> =>
    Object.fromEntries(Object.entries(pairs).map(([name, pair]) => [name, turn(pair)]));
  return {
    fields: all(fields),
    records: all(records),
    order: order && turn(order),
    foundPlants: foundPlants && turn(foundPlants),
  };
}

/** A state with a change made to it. It need not be the one that the change was found in: whatever the change does not name stays. */
export function withChange(work: Work, { fields, records, order, foundPlants }: WorkChange): Work {
  const kept = new Map(work.edits.records.map((record) => [record.id, record]));
  for (const [id, [, after]] of Object.entries(records)) {
    if (after === null) kept.delete(id);
    else kept.set(id, after);
  }
  const after = Object.entries(fields).map(([name, [, value]]) => [name, value] as const);
  return {
    fields: { ...work.fields, ...Object.fromEntries(after) },
    edits: {
      ...work.edits,
      foundPlants: foundPlants ? foundPlants[1] : work.edits.foundPlants,
      records: order ? inOrder([...kept.values()], order[1]) : [...kept.values()],
    },
  };
}

/** Records in the order of some ids; what these do not name stays behind the record that it follows. */
function inOrder(records: readonly EditRecord[], ids: readonly string[]): EditRecord[] {
  const left = new Map(records.map((record) => [record.id, record]));
  const out = ids.flatMap((id) => left.get(id) ?? []);
  const placed = new Set(out.map(({ id }) => id));
  records.forEach((record, i) => {
    if (placed.has(record.id)) return;
    const previous = records[i - 1];
    out.splice(previous ? out.indexOf(previous) + 1 : 0, 0, record);
    placed.add(record.id);
  });
  return out;
}

/** Equal as data, whatever the order of fields. */
export const same = (a: unknown, b: unknown): boolean => a === b || sorted(a) === sorted(b);

const sorted = (value: unknown): string =>
  JSON.stringify(value, (_, part: unknown) =>
    part !== null && typeof part === 'object' && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  ) ?? '';
