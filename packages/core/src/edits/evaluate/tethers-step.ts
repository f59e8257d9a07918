import { holdTethers, tetherFrames, type Tether } from '../../posing/tether';
import { joinRuns, type Run } from '../../signal/runs';
import { sliceMotion } from '../../signal/slice-motion';
import type { TetherRecord } from '../kinds/tether-record';
import type { Step } from '../step';
import { same } from '../work';

interface TethersStep extends Step {
  tethers: readonly TetherRecord[];
}

/** All tethers as one step, so that they agree with each other. Each frame is told by that frame alone. */
export function tethersStep(tethers: readonly TetherRecord[], frames: number): TethersStep {
  const framesOf = (list: readonly Tether[]): Run | null =>
    list.reduce<Run | null>((run, tether) => joinRuns(run, tetherFrames(tether, [0, frames])), null);
  return {
    id: 'tethers',
    key: JSON.stringify(tethers),
    tethers,
    frames: framesOf(tethers),
    needs: (wanted) => wanted,
    affects: (changed) => changed,
    changedFrom: (before) => {
      const was = (before as TethersStep).tethers;
      const lone = (list: readonly TetherRecord[], other: readonly TetherRecord[]): TetherRecord[] =>
        list.filter(
          (tether) =>
            !same(
              tether,
              other.find(({ id }) => id === tether.id),
            ),
        );
      return framesOf([...lone(tethers, was), ...lone(was, tethers)]);
    },
    run: (input, at, wanted) => sliceMotion(holdTethers(input, tethers, at), wanted[0] - at, wanted[1] - at),
  };
}
