import type { Router } from 'vue-router';
import type { Command } from '../commands/command';
import { useCommands } from '../commands/commands-store';
import { useNight } from '../theme/night';
import { useOnceHints } from './once-hints';

/** What can be done anywhere. */
export function houseCommands(router: Router): Command[] {
  const commands = useCommands();
  const go = (name: string, title: string, key: string): Command => ({
    id: `house.${name}`,
    title,
    group: 'House',
    keys: [`Alt+${key}`],
    run: () => void router.push({ name }),
  });
  const group = 'House';
  return [
    go('footage', 'Go to Footage', '1'),
    go('record', 'Go to Record', '2'),
    go('takes', 'Go to Takes', '3'),
    { id: 'house.disk', title: 'Go to Disk', group, keys: [], run: () => void router.push({ name: 'disk' }) },
    {
      id: 'house.palette',
      title: 'Find a command',
      group,
      keys: ['/', 'Shift+/'],
      run: () => (commands.sheet = 'palette'),
    },
    { id: 'house.keys', title: 'Keys', group, keys: ['Shift+?', '?'], run: () => (commands.sheet = 'keys') },
    { id: 'house.hints', title: 'Tell hints again', group, keys: [], run: useOnceHints().tellAgain },
    { id: 'house.light', title: 'Lights on or down', group, keys: ['l'], run: () => useNight().toggle() },
  ];
}
