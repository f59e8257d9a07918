import { ElMessageBox } from 'element-plus';
import { onUnmounted } from 'vue';
import { changeBetween, type Work } from '@merry-shadow/core/edits/work';
import { stateOf, workOf } from '@merry-shadow/contracts/take-work';
import type { OpenTakeView, TakeChange } from '@merry-shadow/contracts/take';
import { changeTake, fetchTake } from '../api/client';
import { useSaving } from '../stores/saving';
import { WorkKeeper, type KnownWork } from './work-keeper';

export const knownWork = ({ revision, ...take }: OpenTakeView): KnownWork => ({ work: workOf(take), revision });

/** Keeps the work on the take that is open: stores it through the server, tells the header, and asks the person where two windows changed the same. */
export function useTakeKeeper(id: string): (changed: (work: Work) => void) => WorkKeeper {
  const saving = useSaving();
  onUnmounted(() => saving.tell(null));
  return (changed) =>
    new WorkKeeper({
      storage: localStorage,
      name: `merry-shadow.unsaved.${id}`,
      send: (work, base, label) => changeTake(id, { ...whatChanged(base.work, work), basedOn: base.revision, label }),
      fetch: async () => knownWork(await fetchTake(id)),
      changed,
      choose: chooseWhose,
      state: saving.tell,
      wait: (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds)),
    });
}

/** Only what is different is sent. */
function whatChanged(before: Work, after: Work): TakeChange {
  const { fields, records, order, foundPlants } = changeBetween(before, after);
  const { settings, edits, ...rest } = stateOf(after);
  const named = Object.entries(settings).filter(([key]) => `settings.${key}` in fields);
  const edited = Object.keys(records).length > 0 || order !== null || foundPlants !== null;
  return {
    ...Object.fromEntries(Object.entries(rest).filter(([key]) => key in fields)),
    ...(named.length > 0 && { settings: Object.fromEntries(named) }),
    ...(edited && { edits }),
  };
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
