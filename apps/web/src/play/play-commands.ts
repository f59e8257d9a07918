import {
  PhCaretDoubleLeft,
  PhCaretDoubleRight,
  PhCaretLeft,
  PhCaretRight,
  PhPlay,
  PhSkipBack,
  PhSkipForward,
} from '@phosphor-icons/vue';
import { commandsOf, type Command } from '../commands/command';
import { SPEEDS, type Player } from './player';
import type { TimeScale } from './time-scale';

/** Frames of a long step. */
const LONG = 10;

/** What plays a clip. @param of whose: the commands' ids begin with it. @param range in and out point. @param ready whether there is something to play. */
export function playCommands(
  of: string,
  player: Player,
  time: TimeScale,
  range: () => readonly [from: number, until: number],
  ready: () => boolean,
): Command[] {
  const make = commandsOf(of, 'Play', ready);
  const command = (
    id: string,
    title: string,
    keys: readonly string[],
    run: () => void,
    icon?: Command['icon'],
  ): Command => make(id, title, keys, run, { icon });
  return [
    command('play', 'Play or stop', ['Space'], player.toggle, PhPlay),
    command('back', 'One frame back', ['ArrowLeft'], () => player.step(-1), PhCaretLeft),
    command('on', 'One frame on', ['ArrowRight'], () => player.step(1), PhCaretRight),
    command('far-back', 'Ten frames back', ['Shift+ArrowLeft'], () => player.step(-LONG), PhCaretDoubleLeft),
    command('far-on', 'Ten frames on', ['Shift+ArrowRight'], () => player.step(LONG), PhCaretDoubleRight),
    command('to-in', 'To the in point', ['Home'], () => player.seek(range()[0]), PhSkipBack),
    command('to-out', 'To the out point', ['End'], () => player.seek(range()[1] - 1), PhSkipForward),
    command('wind-back', 'Wind back, each time faster', [','], () => player.wind(-1)),
    command('wind-on', 'Wind on, each time faster', ['.'], () => player.wind(1)),
    command('slower', 'Slower', ['['], () => player.setSpeed(nextSpeed(player.speed.value, -1))),
    command('faster', 'Faster', [']'], () => player.setSpeed(nextSpeed(player.speed.value, 1))),
    command('nearer', 'Nearer on the strip', ['+', 'Shift++', '='], () => time.zoom(2, player.shown.value)),
    command('farther', 'Farther on the strip', ['-'], () => time.zoom(-2, player.shown.value)),
  ];
}

function nextSpeed(speed: number, by: number): number {
  const at = SPEEDS.findIndex((value) => value >= speed);
  return SPEEDS[Math.min(SPEEDS.length - 1, Math.max(0, at + by))];
}
