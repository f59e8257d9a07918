import type { Plant } from '../ground/plants';
import type { TakeEdits } from '../passes/take-edits';

/** Edits of two windows brought together. */
export interface MergedEdits {
  edits: TakeEdits;
  /** What both changed differently, in words; the person's own stands in `edits`. */
  conflicts: string[];
}

/** Something with an id that lasts. */
interface Kept {
  id?: string;
}

/**
 * Gives each pass and plant that has none an id that lasts: selection, merging and saving go by it. The same edits get the
 * same ids in every window.
 */
export function withIds({ passes, plants }: TakeEdits): TakeEdits {
  return {
    passes: named(passes, ({ pass }) => pass),
    plants: plants && named(plants, ({ part, from }) => `${part}-${from}`),
  };
}

function named<T extends Kept>(list: readonly T[], nameOf: (item: T) => string): T[] {
  const taken = new Set(list.flatMap(({ id }) => (id === undefined ? [] : [id])));
  return list.map((item) => {
    if (item.id !== undefined) return item;
    const name = nameOf(item);
    let id = name;
    for (let n = 2; taken.has(id); n++) id = `${name}-${n}`;
    taken.add(id);
    return { ...item, id };
  });
}

/**
 * Brings together what two windows made of the same edits, record by record (a three-way merge): what only one changed, added or took away
 * counts; where both changed the same record differently, the person's own stands and it is told.
 * @param base what both began with. @param own this window's. @param theirs what was stored meanwhile.
 * @param found plants that were found in the capture, for whom plants of null stand. All spans count the same frames.
 */
export function mergeEdits(
  base: TakeEdits,
  own: TakeEdits,
  theirs: TakeEdits,
  found: readonly Plant[] = [],
): MergedEdits {
  const [before, mine, other] = [base, own, theirs].map(withIds);
  const conflicts: string[] = [];
  const passes = mergeLists(before.passes, mine.passes, other.passes, ({ pass }) =>
    conflicts.push(`the pass "${pass}"`),
  );
  const plants = same(mine.plants, before.plants)
    ? other.plants
    : same(other.plants, before.plants)
      ? mine.plants
      : mergePlants(before.plants, mine.plants, other.plants, found, (what) => conflicts.push(what));
  return { edits: { passes, plants }, conflicts };
}

function mergePlants(
  base: Plant[] | null,
  own: Plant[] | null,
  theirs: Plant[] | null,
  found: readonly Plant[],
  conflict: (what: string) => void,
): Plant[] | null {
  // Taking those found again throws all others away: no record to bring together.
  if (own === null || theirs === null) {
    conflict('the plants');
    return own;
  }
  const before = base ?? withIds({ passes: [], plants: [...found] }).plants ?? [];
  return mergeLists(before, own, theirs, ({ part, from }) => conflict(`the plant of ${part} at frame ${from}`));
}

/** Merges lists of records; their order is the person's own where that changed, else the other's. */
function mergeLists<T extends Kept>(
  base: readonly T[],
  own: readonly T[],
  theirs: readonly T[],
  conflict: (item: T) => void,
): T[] {
  const [before, mine, other] = [base, own, theirs].map((list) => new Map(list.map((item) => [item.id, item])));
  const merged = new Map<string | undefined, T>();
  for (const id of new Set([...before.keys(), ...other.keys(), ...mine.keys()])) {
    const [was, a, b] = [before.get(id), mine.get(id), other.get(id)];
    const [changed, changedToo] = [!same(a, was), !same(b, was)];
    if (changed && changedToo && !same(a, b)) conflict((a ?? b) as T);
    const kept = changed ? a : b;
    if (kept) merged.set(id, kept);
  }
  const order = (list: readonly T[]): (string | undefined)[] =>
    list.map(({ id }) => id).filter((id) => before.has(id) && mine.has(id) && other.has(id));
  const [lead, follow] = same(order(own), order(base)) ? [theirs, own] : [own, theirs];
  const ids = lead.map(({ id }) => id).filter((id) => merged.has(id));
  // What only the other list has goes behind the record that it follows there.
  follow.forEach(({ id }, i) => {
    if (!merged.has(id) || ids.includes(id)) return;
    const previous = follow
      .slice(0, i)
      .map((item) => item.id)
      .findLast((name) => ids.includes(name));
    ids.splice(previous === undefined ? 0 : ids.indexOf(previous) + 1, 0, id);
  });
  return ids.map((id) => merged.get(id) as T);
}

/** Equal as data, whatever the order of fields. */
export const same = (a: unknown, b: unknown): boolean => sorted(a) === sorted(b);

const sorted = (value: unknown): string =>
  JSON.stringify(value, (_, part: unknown) =>
    part !== null && typeof part === 'object' && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  ) ?? '';
