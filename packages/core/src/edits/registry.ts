import { z } from 'zod';
import { betweenKind } from './kinds/between-record';
import { curvesKind } from './kinds/curves-record';
import { dismissedKind } from './kinds/dismissed-record';
import { foundPlantKind } from './kinds/found-plant-record';
import { keyPosesKind } from './kinds/key-poses-record';
import { layerKind } from './kinds/layer-record';
import { passKind } from './kinds/pass-record';
import { plantKind } from './kinds/plant-record';
import type { RecordKind } from './kinds/record-kind';
import { tetherKind } from './kinds/tether-record';
import { timingKind } from './kinds/timing-record';
import { depthHintKind, hiddenMarkKind, movedMarkKind, swappedSidesKind } from './kinds/told-record';

/** Every kind of record there is. */
const KINDS = [
  passKind,
  betweenKind,
  layerKind,
  curvesKind,
  tetherKind,
  plantKind,
  foundPlantKind,
  keyPosesKind,
  timingKind,
  dismissedKind,
  movedMarkKind,
  hiddenMarkKind,
  depthHintKind,
  swappedSidesKind,
] as const;
type Schemas<Kinds extends readonly { schema: unknown }[]> = { [K in keyof Kinds]: Kinds[K]['schema'] };

export const EditRecord = z.discriminatedUnion(
  'kind',
  KINDS.map(({ schema }) => schema) as unknown as Schemas<typeof KINDS>,
);
export type EditRecord = z.infer<typeof EditRecord>;

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

/** Those of them that are not left out. */
export const recordsInUse = <Kind extends EditRecord['kind']>(
  records: readonly EditRecord[],
  kind: Kind,
): Extract<EditRecord, { kind: Kind }>[] => recordsOf(records, kind).filter(({ muted }) => !muted);
