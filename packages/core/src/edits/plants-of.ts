import { plantsFrom, type Plant, type Resting } from '../ground/plants';
import type { FoundPlantRecord } from './kinds/found-plant-record';
import { recordsInUse } from './registry';
import type { TakeEdits } from './take-edits';

/** A plant that holds, with the id that it is chosen by: its record's, or one that tells where it was found. */
export interface HeldPlant extends Plant {
  id: string;
}

/** Plants that were found in a capture, each with the id that a change of it will have. All spans count the same frames. */
export const foundPlants = (contacts: Resting<ArrayLike<number>> | null, first: number): HeldPlant[] =>
  plantsFrom(contacts).map((plant) => {
    const [from, until] = [plant.from + first, plant.until + first];
    return { ...plant, from, until, id: `found-${plant.part}-${from}` };
  });

/** The plants that hold: those found with what was done to them, and those that a person set. */
export function plantsOf({ records, foundPlants: use }: TakeEdits, found: readonly HeldPlant[]): HeldPlant[] {
  const own = recordsInUse(records, 'plant');
  const changes = recordsInUse(records, 'found-plant');
  const left = new Map(use ? found.map((plant) => [plant.id, plant]) : []);
  const changed = changes.flatMap((record): HeldPlant[] => {
    const plant = nearest(record, [...left.values()]);
    if (plant) left.delete(plant.id);
    if (record.change === null || !use) return [];
    // What is no longer found stays where the person saw it.
    const { part, from, until } = plant ?? record;
    const held = { part, from, until, ease: plant?.ease ?? 5, place: plant?.place ?? null, ...record.change };
    return held.until > held.from ? [{ ...held, id: record.id }] : [];
  });
  const set = own.map(({ id, part, from, until, ease, place }) => ({ id, part, from, until, ease, place }));
  return [...left.values(), ...changed, ...set].sort((a, b) => a.from - b.from || (a.id < b.id ? -1 : 1));
}

/** The found plant that a change is about: of the same part, with most frames in common. */
function nearest(record: FoundPlantRecord, found: readonly HeldPlant[]): HeldPlant | undefined {
  let [best, most]: [HeldPlant | undefined, number] = [undefined, 0];
  for (const plant of found) {
    const common = Math.min(plant.until, record.until) - Math.max(plant.from, record.from);
    if (plant.part === record.part && common > most) [best, most] = [plant, common];
  }
  return best;
}

/** Changes a plant, or takes it away (null), whether it was found or set. @param held the plants that hold. */
export function withPlant(
  edits: TakeEdits,
  held: readonly HeldPlant[],
  id: string,
  change: FoundPlantRecord['change'],
): TakeEdits {
  const { records } = edits;
  const record = records.find((item) => item.id === id);
  if (!record) {
    const plant = held.find((item) => item.id === id);
    if (!plant) return edits;
    const { part, from, until } = plant;
    return { ...edits, records: [...records, { kind: 'found-plant', id, muted: false, part, from, until, change }] };
  }
  const next = records.flatMap((item) => {
    if (item !== record) return [item];
    if (item.kind === 'found-plant') return [{ ...item, change: change && { ...item.change, ...change } }];
    return change && item.kind === 'plant' ? [{ ...item, ...change }] : [];
  });
  return { ...edits, records: next };
}
