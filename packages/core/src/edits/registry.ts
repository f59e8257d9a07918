import { z } from 'zod';
import { foundPlantKind, FoundPlantRecord } from './kinds/found-plant-record';
import { passKind, PassRecord } from './kinds/pass-record';
import { plantKind, PlantRecord } from './kinds/plant-record';
import type { AnyRecord, RecordKind } from './kinds/record-kind';
import { timingKind, TimingRecord } from './kinds/timing-record';

/** Every kind of record there is. */
export const EditRecord = z.discriminatedUnion('kind', [PassRecord, PlantRecord, FoundPlantRecord, TimingRecord]);
export type EditRecord = z.infer<typeof EditRecord>;

const KINDS = [passKind, plantKind, foundPlantKind, timingKind] as unknown as readonly RecordKind<AnyRecord>[];

/** What is known of the kind of a record. */
export function kindOf(record: EditRecord): RecordKind<EditRecord> {
  return KINDS.find(({ kind }) => kind === record.kind) as unknown as RecordKind<EditRecord>;
}

/** Records of one kind, in their order. */
export const recordsOf = <Kind extends EditRecord['kind']>(
  records: readonly EditRecord[],
  kind: Kind,
): Extract<EditRecord, { kind: Kind }>[] =>
  records.filter((record): record is Extract<EditRecord, { kind: Kind }> => record.kind === kind);
