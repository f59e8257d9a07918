import { z } from 'zod';
import { PASSES } from '../passes/registry';

/** The document as it was first stored: a list of passes, and plants that stood for all those that were found. */
const FirstEdits = z.object({
  passes: z.array(z.looseObject({ id: z.string().optional(), pass: z.string() })).default([]),
  plants: z
    .array(z.looseObject({ id: z.string().optional(), part: z.string(), from: z.number() }))
    .nullable()
    .default(null),
});

/** Brings the first form of the document to the present one; anything else is left to be checked as it is. */
export function fromFirstEdits(stored: unknown): unknown {
  if (typeof stored !== 'object' || stored === null || 'records' in stored || 'version' in stored) return stored;
  const first = FirstEdits.safeParse(stored);
  if (!first.success || !('passes' in stored || 'plants' in stored)) return stored;
  const { passes, plants } = first.data;
  const taken = new Set<string>();
  const named = (id: string | undefined, name: string): string => {
    let unused = id ?? name;
    for (let n = 2; taken.has(unused); n++) unused = `${id ?? name}-${n}`;
    taken.add(unused);
    return unused;
  };
  const timed = new Set(PASSES.filter(({ timing }) => timing).map(({ name }) => name));
  return {
    foundPlants: plants === null,
    records: [
      ...passes.map((step) => {
        const id = named(step.id, step.pass);
        if (!timed.has(step.pass)) return { ...step, id, kind: 'pass' };
        const muted = step.muted === true || step.strength === 0;
        return { id, kind: 'timing', muted, pass: step.pass, options: step.options ?? {} };
      }),
      ...(plants ?? []).map((plant) => ({
        ...plant,
        id: named(plant.id, `${plant.part}-${plant.from}`),
        kind: 'plant',
      })),
    ],
  };
}
