import {
  PhArrowsInLineVertical,
  PhArrowsOutLineVertical,
  PhDrop,
  PhEquals,
  PhLineSegment,
  PhPlus,
  PhStairs,
  PhTrash,
  PhWaveSine,
  PhWaveTriangle,
} from '@phosphor-icons/vue';
import { commandsOf, type Command } from '../commands/command';
import { attempt } from '../shell/trouble';
import type { CurveDesk } from './curve-desk';

/** What is done on the curve desk. */
export function curveCommands(desk: CurveDesk): Command[] {
  const command = commandsOf('take', 'Curves', () => desk.isOpen.value);
  const chosen = (): boolean => desk.isOpen.value && desk.chosen.value.length > 0;
  const ofKeys = (id: string, title: string, icon: Command['icon'], run: () => void): Command =>
    command(id, title, [], run, { icon, enabled: chosen });
  return [
    command('curve-desk', 'Curve desk', ['u'], () => (desk.isOpen.value = !desk.isOpen.value), {
      icon: PhWaveSine,
      enabled: () => desk.frames.value > 0,
    }),
    command('thin-curves', 'Thin to keys', [], () => void attempt(desk.thin)),
    command('insert-curve-key', 'Put a key in at the shown frame', [], desk.insert, { icon: PhPlus }),
    ofKeys('smooth-keys', 'Smooth', PhWaveSine, () => desk.shape('smooth')),
    ofKeys('straight-keys', 'Straight to the next key', PhWaveTriangle, () => desk.shape('straight')),
    ofKeys('step-keys', 'Stay until the next key', PhStairs, () => desk.shape('step')),
    ofKeys('free-keys', 'Free, with handles', PhDrop, () => desk.shape('free')),
    ofKeys('level-keys', 'Bring keys to one value', PhEquals, desk.level),
    ofKeys('straighten-keys', 'Bring keys onto the line between their neighbours', PhLineSegment, desk.straighten),
    ofKeys('shrink-keys', 'Half as far from their mean', PhArrowsInLineVertical, () => desk.scale(0.5)),
    ofKeys('stretch-keys', 'Half as far again from their mean', PhArrowsOutLineVertical, () => desk.scale(1.5)),
    ofKeys('remove-curve-keys', 'Take keys out', PhTrash, desk.remove),
    command('clear-curves', 'Remove all keys', [], desk.clear, {
      enabled: () => desk.isOpen.value && desk.records.value.length > 0,
    }),
  ];
}

/** Those that stand beside each other above the curves. */
export const ON_KEYS = [
  'insert-curve-key',
  'smooth-keys',
  'straight-keys',
  'step-keys',
  'free-keys',
  'level-keys',
  'straighten-keys',
  'shrink-keys',
  'stretch-keys',
  'remove-curve-keys',
].map((id) => `take.${id}`);
