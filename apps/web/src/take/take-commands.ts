import {
  PhArrowLineLeft,
  PhArrowLineRight,
  PhArrowsOutLineHorizontal,
  PhArrowUUpLeft,
  PhArrowUUpRight,
  PhChartLine,
} from '@phosphor-icons/vue';
import { withPlant } from '@merry-shadow/core/edits/plants-of';
import { commandsOf, type Command } from '../commands/command';
import { CLOSE_UPS, isCloseUp, STANDARD_VIEWS, type StageControls } from './stage-controls';
import { playCommands } from '../play/play-commands';
import { captureTake } from '../api/client';
import { attempt } from '../shell/trouble';
import { isOpen } from '../takes/run-words';
import { keyPosesOf } from '../pose/key-poses';
import { keyPoseCommands, poseCommands } from '../pose/pose-commands';
import type { Posing } from '../pose/posing';
import type { MendingSnags } from './mending';
import type { OpenTake } from './open-take';
import { snagCommands } from './snag-commands';

/** Everything that can be done with an open take. */
export function takeCommands(open: OpenTake, stage: StageControls, posing: Posing, mending: MendingSnags): Command[] {
  const { player, work, take } = open;
  const ready = (): boolean => take.value !== undefined;
  const moved = (): boolean => open.solved.value !== null;
  const command = (group: string, ...rest: Parameters<ReturnType<typeof commandsOf>>): Command =>
    commandsOf('take', group, ready)(...rest);
  const undone = (label: string | null, word: string): string => (label === null ? word : `${word}: ${label}`);
  return [
    ...playCommands('take', player, open.time, () => [take.value?.fromFrame ?? 0, take.value?.untilFrame ?? 1], ready),
    command('Play', 'whole', 'Whole clip on the strip', ['0'], open.time.fit, {
      icon: PhArrowsOutLineHorizontal,
      enabled: () => !open.time.whole.value,
    }),
    command('Take', 'in', 'Set in', ['i'], open.setIn, { icon: PhArrowLineRight }),
    command('Take', 'out', 'Set out', ['o'], open.setOut, { icon: PhArrowLineLeft }),
    command('Take', 'track', 'Track', ['t'], () => void attempt(() => captureTake(open.id)), {
      enabled: () => ready() && !isOpen(take.value?.run ?? null),
    }),
    command('Take', 'choose-performer', 'Choose the performer in the picture', ['p'], () => void open.tools.choose()),
    command(
      'Take',
      'say-again',
      'Say again who the performer is here',
      ['Shift+p'],
      () => void open.tools.choose(true),
      {
        enabled: () => ready() && take.value?.settings.performer !== null,
      },
    ),
    command('Take', 'measure-pitch', 'Measure the camera pitch on the picture', [], open.tools.measure),
    command('Look', 'marks', 'Marks over the picture', ['m'], () => (open.marks.value = !open.marks.value)),
    command(
      'Look',
      'overlay',
      'Solved figure over the picture',
      ['v'],
      () => (open.wantsOverlay.value = !open.wantsOverlay.value),
      {
        enabled: () => open.canOverlay.value,
      },
    ),
    command('Look', 'before', 'Before and after', ['b'], () => (open.before.value = !open.before.value), {
      enabled: moved,
    }),
    command('Look', 'compare', 'Now and the version looked at last', ['z'], open.toggleLooked, {
      enabled: () => open.lookedLast.value !== null,
    }),
    command('Look', 'follow', 'Follow the figure', ['f'], () => (stage.following.value = !stage.following.value)),
    command(
      'Look',
      'trails',
      'Trails of hands, feet and head',
      ['y'],
      () => (stage.trails.value = !stage.trails.value),
      {
        enabled: moved,
      },
    ),
    command('Look', 'ghosts', 'Ghosts of other frames', ['w'], () => (stage.ghosts.value = !stage.ghosts.value), {
      enabled: moved,
    }),
    command('Look', 'company', 'Others of the same frames', ['r'], () => (stage.company.value = !stage.company.value), {
      enabled: moved,
    }),
    command('Look', 'picture', 'Picture in the stage: behind, facing, or not', ['q'], stage.nextPicture, {
      enabled: moved,
    }),
    command(
      'Look',
      'curves',
      'Readings: heights, speeds, angles, hands and face',
      ['c'],
      () => (stage.curves.value = !stage.curves.value),
      {
        icon: PhChartLine,
        enabled: moved,
      },
    ),
    ...[...STANDARD_VIEWS, ...CLOSE_UPS].map((view, i) =>
      command(
        'Look',
        `view-${view.replace(' ', '-')}`,
        isCloseUp(view) ? `Look at the ${view} near by` : `Look from ${view === 'camera' ? 'the camera' : view}`,
        [String(i + 1)],
        () => stage.look(view),
        { enabled: moved },
      ),
    ),
    {
      ...command('Edit', 'undo', 'Undo', ['$mod+z'], work.undo, { icon: PhArrowUUpLeft }),
      get title() {
        return undone(work.undoLabel.value, 'Undo');
      },
      enabled: () => work.undoLabel.value !== null,
    },
    {
      ...command('Edit', 'redo', 'Redo', ['$mod+Shift+z', '$mod+y'], work.redo, { icon: PhArrowUUpRight }),
      get title() {
        return undone(work.redoLabel.value, 'Redo');
      },
      enabled: () => work.redoLabel.value !== null,
    },
    command('Edit', 'remove', 'Remove the chosen plant', ['Delete'], open.removePlant, {
      enabled: () => open.selected.value !== null,
    }),
    command('Edit', 'start-plant', 'Start the chosen plant here', ['Shift+i'], () => placePlant(open, 'from'), {
      enabled: () => open.selected.value !== null,
    }),
    command('Edit', 'end-plant', 'End the chosen plant here', ['Shift+o'], () => placePlant(open, 'until'), {
      enabled: () => open.selected.value !== null,
    }),
    command('Edit', 'next-plant', 'Choose the next plant', ['n'], () => choose(open, 1), { enabled: moved }),
    command('Edit', 'previous-plant', 'Choose the plant before', ['Shift+n'], () => choose(open, -1), {
      enabled: moved,
    }),
    ...snagCommands(mending, moved),
    ...poseCommands(posing),
    ...keyPoseCommands(keyPosesOf(open)),
  ];
}

/** Chooses a plant beside the chosen one in time, or beside the shown frame, and goes there. */
function choose({ plants, selected, frame, firstObserved, goTo }: OpenTake, by: 1 | -1): void {
  const list = plants.value;
  if (list.length === 0) return;
  const at = list.findIndex(({ id }) => id === selected.value);
  const after = list.findIndex(({ from }) => from >= frame.value);
  const near = by > 0 ? (after < 0 ? 0 : after) : after < 0 ? list.length - 1 : after - 1;
  const next = list[(at >= 0 ? at + by + list.length : near + list.length) % list.length];
  selected.value = next.id;
  goTo(next.from + firstObserved.value);
}

/** Puts an end of the chosen plant to the shown frame. */
function placePlant({ plants, selected, player, firstObserved, work }: OpenTake, end: 'from' | 'until'): void {
  const frame = player.at() - firstObserved.value;
  const plant = plants.value.find(({ id }) => id === selected.value);
  if (!plant || frame < 0) return;
  const change =
    end === 'from' ? { from: Math.min(frame, plant.until - 1) } : { until: Math.max(frame + 1, plant.from + 1) };
  work.changeEdits('move plant', withPlant(work.edits.value, plants.value, plant.id, change));
}
