import { PhGhost, PhWrench } from '@phosphor-icons/vue';
import { commandsOf, type Command } from '../commands/command';
import type { MendingSnags } from './mending';

/** What can be done about snags. @param moved whether there is a motion. */
export function snagCommands(mending: MendingSnags, moved: () => boolean): Command[] {
  const { chosen, tried, listed, working, capture } = mending;
  const command = commandsOf('take', 'Snags', moved);
  return [
    command('next-snag', 'Go to the next snag', ['s'], () => mending.step(1)),
    command('previous-snag', 'Go to the snag before', ['Shift+s'], () => mending.step(-1)),
    command('take-mending', 'Mend it so', ['e'], mending.take, {
      icon: PhWrench,
      enabled: () => (tried.value?.records.length ?? 0) > 0,
    }),
    command('adapt-mending', 'Mend and change it', [], mending.adapt, {
      enabled: () => (tried.value?.records.length ?? 0) > 0,
    }),
    command('dismiss-snag', 'Leave it', ['Shift+e'], mending.dismiss, { enabled: () => chosen.value !== null }),
    command('mend-all', 'Mend all that are listed', [], () => void mending.mendAll(), {
      enabled: () => listed.value.length > 0 && !working.value,
    }),
    command('pale-capture', 'The capture as a pale figure', ['a'], () => (capture.value = !capture.value), {
      icon: PhGhost,
    }),
  ];
}
