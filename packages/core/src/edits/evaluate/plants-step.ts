import { holdPlants, plantReach } from '../../ground/hold-plants';
import { plantsWithin } from '../../ground/plants';
import { joinRuns, sharedRun, widenRun, type Run } from '../../signal/runs';
import { sliceMotion } from '../../signal/slice-motion';
import { same } from '../work';
import type { HeldPlant } from '../plants-of';
import type { Step } from '../step';

interface PlantsStep extends Step {
  plants: readonly HeldPlant[];
}

/**
 * All plants as one step. Where a plant holds depends on where its part was over its whole span, and on the ball of the same foot where that is
 * planted at the same time; around a plant the hips may come down.
 */
export function plantsStep(plants: readonly HeldPlant[], frames: number, rate: number): PlantsStep {
  const held = plantsWithin(plants, frames);
  const whole: Run = [0, frames];
  const reach = plantReach(rate);
  /** With the frames around, in which the hips may come down. */
  const reached = (run: Run | null): Run | null => run && sharedRun(widenRun(run, reach), whole);
  const inside = (run: Run): Run => sharedRun(run, whole) ?? whole;
  const eased = ({ from, until, ease }: HeldPlant): Run => [from - ease, until + ease];
  /** All frames that some plants hold, with their ease. */
  const allOf = (list: readonly HeldPlant[]): Run | null =>
    list.reduce<Run | null>((run, plant) => joinRuns(run, eased(plant)), null);
  const touches = (plant: HeldPlant, run: Run): boolean => sharedRun(eased(plant), run) !== null;
  /** Plants of the same foot that a heel's place depends on. */
  const balls = ({ part, from, until }: HeldPlant, list: readonly HeldPlant[]): HeldPlant[] =>
    part.endsWith('Heel')
      ? list.filter((other) => other.part === part.replace('Heel', 'Toe') && other.until > from && other.from < until)
      : [];
  const neededBy = (wanted: Run): HeldPlant[] => {
    const touched = held.filter((plant) => touches(plant, widenRun(wanted, reach)));
    return [...new Set([...touched, ...touched.flatMap((plant) => balls(plant, held))])];
  };
  /** Frames that are held differently when some plants are: their own, and those of heels beside them. */
  const heldBy = (changed: readonly HeldPlant[], list: readonly HeldPlant[]): Run | null => {
    const heels = list.filter((plant) => balls(plant, changed).length > 0);
    return allOf([...changed, ...heels]);
  };
  return {
    id: 'plants',
    key: JSON.stringify(held),
    plants: held,
    frames: reached(allOf(held)),
    needs: (wanted) =>
      inside(
        neededBy(wanted).reduce<Run>(
          (run, { from, until }) => [Math.min(run[0], from), Math.max(run[1], until)],
          widenRun(wanted, reach),
        ),
      ),
    affects: (changed) => {
      const moved = held.filter((plant) => sharedRun([plant.from, plant.until], changed) !== null);
      return inside(widenRun(joinRuns(changed, heldBy(moved, held)) ?? changed, reach));
    },
    changedFrom: (before) => {
      const was = (before as PlantsStep).plants;
      const lone = (list: readonly HeldPlant[], other: readonly HeldPlant[]): HeldPlant[] => {
        const known = new Map(other.map((plant) => [plant.id, plant]));
        return list.filter((plant) => !same(plant, known.get(plant.id)));
      };
      return reached(joinRuns(heldBy(lone(held, was), held), heldBy(lone(was, held), [...was, ...held])));
    },
    run: (input, at, wanted) => {
      const shifted = neededBy(wanted).map((plant) => ({ ...plant, from: plant.from - at, until: plant.until - at }));
      return sliceMotion(holdPlants(input, shifted), wanted[0] - at, wanted[1] - at);
    },
  };
}
