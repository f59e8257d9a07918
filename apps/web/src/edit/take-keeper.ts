import { ElMessageBox } from 'element-plus';
import { onUnmounted, type Ref } from 'vue';
import { plantsFrom } from '@merry-shadow/core/ground/plants';
import { shiftEdits, type TakeEdits } from '@merry-shadow/core/edits/take-edits';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import { fetchProduction, storeEdits } from '../api/client';
import { useSaving } from '../stores/saving';
import { EditKeeper, type StoredEdits } from './edit-keeper';

/**
 * Keeps the edits of the take that is open: stores them through the server, tells the header, and asks the person where two windows
 * changed the same.
 * @param first the clip's frame that the capture begins with.
 */
export function useTakeKeeper(
  id: string,
  solved: Ref<SolvedTake | null>,
  first: Ref<number>,
): (changed: (edits: TakeEdits) => void) => EditKeeper {
  const saving = useSaving();
  onUnmounted(() => saving.tell(null));
  return (changed) =>
    new EditKeeper({
      storage: localStorage,
      name: `merry-shadow.unsaved.${id}`,
      send: (edits, basedOn) => storeEdits(id, edits, basedOn),
      fetch: () => fetchEdits(id),
      found: () =>
        shiftEdits({ passes: [], plants: plantsFrom(solved.value?.contacts ?? null) }, first.value).plants ?? [],
      changed,
      choose: chooseWhose,
      state: saving.tell,
      wait: (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds)),
    });
}

async function fetchEdits(id: string): Promise<StoredEdits> {
  const found = (await fetchProduction()).takes.find((take) => take.id === id);
  if (!found) throw new Error('This take is no longer there.');
  return { edits: found.edits, revision: found.editsRevision };
}

/** Asks whose change shall stand where another window changed the same. */
async function chooseWhose(conflicts: readonly string[]): Promise<'own' | 'theirs'> {
  try {
    await ElMessageBox.confirm(
      `In another window ${conflicts.join(', ')} was changed, too, and in another way. All else is kept from both.`,
      'Changed in two windows',
      { confirmButtonText: 'Keep mine', cancelButtonText: 'Take theirs', distinguishCancelAndClose: true },
    );
    return 'own';
  } catch (action) {
    return action === 'cancel' ? 'theirs' : 'own';
  }
}
