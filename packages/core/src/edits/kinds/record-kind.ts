import type { z } from 'zod';

/** The order in which a motion is evaluated: clean it up, put it on the ground, then change its timing. */
export const STAGES = ['clean', 'ground', 'timing'] as const;
export type Stage = (typeof STAGES)[number];

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
  readonly stage: Stage;
  /** Frames from … until − 1 that it is about, for the strip and for checks; null for the whole take. */
  readonly span: (record: Data) => readonly [number, number] | null;
  /** The same record counted from another first frame; nothing is cut. */
  readonly shift: (record: Data, by: number) => Data;
  /** What it is called in a sentence: "the pass Smooth". */
  readonly words: (record: Data) => string;
}

/** Shifts a span that may be the whole take. */
export const shiftSpan = (span: [number, number] | null, by: number): [number, number] | null =>
  span && [span[0] + by, span[1] + by];
