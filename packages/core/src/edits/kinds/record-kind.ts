import type { z } from 'zod';
import type { Step, SteppedTake } from '../step';

/** What all records have. */
export interface AnyRecord {
  /** Lasts as long as the record: selection, undo, saving and merging go by it. */
  id: string;
  kind: string;
  /** Left out while evaluating, and kept. */
  muted: boolean;
}

/** A kind of record that a person lays over a take. One file for each; the registry lists them. */
export interface RecordKind<Data extends AnyRecord> {
  readonly kind: Data['kind'];
  readonly schema: z.ZodType<Data>;
  /** Frames from … until − 1 that it is about, for the strip and for checks; null for the whole take. */
  readonly span: (record: Data) => readonly [number, number] | null;
  /** The same record counted from another first frame; nothing is cut. */
  readonly shift: (record: Data, by: number) => Data;
  /** What it is called in a sentence: "the pass Smooth". */
  readonly words: (record: Data) => string;
  /** Kinds of a later stage are evaluated after all of earlier ones, whatever their order in the document; 0 if left out. */
  readonly stage?: number;
  /** Whether it is evaluated after the plants, on which all else stands. */
  readonly afterPlants?: boolean;
  /** How it is evaluated, where it is a step of its own among the others in their order. Tethers and plants are held together after these but for those that come after them, timing comes last. */
  readonly step?: (record: Data, take: SteppedTake) => Step;
}
