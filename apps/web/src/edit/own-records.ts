import { computed, type ComputedRef } from 'vue';
import { recordsOf, type EditRecord } from '@merry-shadow/core/edits/registry';
import { withoutRecords, withRecord } from '@merry-shadow/core/edits/take-edits';
import { useOpenTake } from '../take/open-take';

type RecordOf<Kind extends EditRecord['kind']> = Extract<EditRecord, { kind: Kind }>;

/** The records of one kind of the take that is open, for a list of them: each change is a step that can be undone. */
export function useOwnRecords<Kind extends EditRecord['kind']>(
  kind: Kind,
): {
  list: ComputedRef<RecordOf<Kind>[]>;
  /** Adds a record, or puts it in the place of the one with its id. */
  put: (label: string, record: RecordOf<Kind>) => void;
  remove: (label: string, record: RecordOf<Kind>) => void;
} {
  const { work } = useOpenTake();
  return {
    list: computed(() => recordsOf(work.edits.value.records, kind)),
    put: (label, record) => work.changeEdits(label, withRecord(work.edits.value, record)),
    remove: (label, { id }) =>
      work.changeEdits(
        label,
        withoutRecords(work.edits.value, (one) => one.id === id),
      ),
  };
}
