import {
  PhArrowLineLeft,
  PhArrowLineRight,
  PhArrowsOutLineHorizontal,
  PhArrowUUpLeft,
  PhScissors,
} from '@phosphor-icons/vue';
import type { Router } from 'vue-router';
import { commandsOf, type Command } from '../commands/command';
import { playCommands } from '../play/play-commands';
import { captureTake } from '../api/client';
import { attempt } from '../shell/trouble';
import { isOpen } from '../takes/run-words';
import type { OpenClip } from './open-clip';

/** What a new take covers around the shown frame when it is marked by key, seconds. */
const MARKED = 4;

/** Everything that can be done with an open clip. */
export function clipCommands(open: OpenClip, router: Router): Command[] {
  const { facts, player, chosen, time } = open;
  const ready = (): boolean => facts.value !== null;
  const range = (): [number, number] => [
    chosen.value?.fromFrame ?? 0,
    chosen.value?.untilFrame ?? facts.value?.frames ?? 1,
  ];
  const command = commandsOf('clip', 'Takes of the clip', () => chosen.value !== null);
  return [
    ...playCommands('clip', player, time, range, ready),
    command('whole', 'Whole clip on the strip', ['0'], time.fit, {
      icon: PhArrowsOutLineHorizontal,
      group: 'Play',
      enabled: () => !time.whole.value,
    }),
    command('in', 'Set in', ['i'], open.setIn, { icon: PhArrowLineRight }),
    command('out', 'Set out', ['o'], open.setOut, { icon: PhArrowLineLeft }),
    command(
      'mark',
      'Mark a take here',
      ['n'],
      () => {
        const { rate, frames } = facts.value ?? { rate: 30, frames: 1 };
        const from = Math.min(player.at(), frames - 1);
        void open.mark(from, Math.min(frames, from + Math.round(MARKED * rate)));
      },
      { icon: PhScissors, enabled: ready },
    ),
    command(
      'open',
      'Open the chosen take',
      ['Enter'],
      () => void router.push({ name: 'take', params: { id: chosen.value?.id } }),
    ),
    command(
      'throw-away',
      'Throw the chosen take away',
      ['Delete'],
      () => chosen.value && void open.throwAway(chosen.value),
    ),
    command(
      'track',
      'Track the chosen take',
      ['t'],
      () => chosen.value && void attempt(() => captureTake(chosen.value!.id)),
      {
        enabled: () => chosen.value !== null && !isOpen(chosen.value.run),
      },
    ),
    {
      ...command('undo', 'Undo', ['$mod+z'], () => void open.undo(), { icon: PhArrowUUpLeft, group: 'Edit' }),
      get title() {
        return open.undoLabel.value === null ? 'Undo' : `Undo: ${open.undoLabel.value}`;
      },
      enabled: () => open.undoLabel.value !== null,
    },
  ];
}
