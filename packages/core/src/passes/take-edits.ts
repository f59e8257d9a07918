import { z } from 'zod';
import { holdPlants } from '../ground/hold-plants';
import { Plant, plantsFrom, plantsWithin } from '../ground/plants';
import type { Motion } from '../motion/motion';
import type { SolvedTake } from '../solve/solve-take';
import { passNamed } from './registry';
import { checkResultLength } from './result-size';
import { PassStep, runPass } from './run-passes';

/** What a person has laid over a take: data, stored with it. */
export const TakeEdits = z.object({
  passes: z.array(PassStep).max(100).default([]),
  /** null takes the plants that were found. */
  plants: z.array(Plant).max(20000).nullable().default(null),
});
export type TakeEdits = z.infer<typeof TakeEdits>;
export const NO_EDITS: TakeEdits = { passes: [], plants: null };

/** The same edits counted from another first frame. Nothing is cut: what lies outside a take comes back when its range does. */
export const shiftEdits = ({ passes, plants }: TakeEdits, by: number): TakeEdits => ({
  passes: passes.map((step) => (step.range ? { ...step, range: [step.range[0] + by, step.range[1] + by] } : step)),
  plants: plants && plants.map((plant) => ({ ...plant, from: plant.from + by, until: plant.until + by })),
});

/**
 * Evaluates a take with what was laid over it: passes in their order, then plants, then the passes that change
 * the timing. Keeps the result of each step, so that a change evaluates only what follows it.
 */
export class TakeEvaluator {
  private steps: { key: string; result: Motion }[] = [];
  /** Steps that the last evaluation had to run. */
  ran = 0;
  /** The motion that was evaluated last, in the take's own time: before any pass that changes the timing. */
  untimed: Motion;

  constructor(private readonly solved: Pick<SolvedTake, 'motion' | 'bridged' | 'contacts'>) {
    this.untimed = solved.motion;
  }

  /** @throws Error when a step names no pass, its options don't fit, or the result would be enormous. */
  evaluate({ passes, plants }: TakeEdits): Motion {
    const { motion, bridged, contacts } = this.solved;
    const last = (step: PassStep): boolean => passNamed(step.pass).timing === true;
    const pass = (step: PassStep) => ({
      key: JSON.stringify(step),
      run: (current: Motion): Motion => runPass(current, step, { bridged }),
    });
    checkResultLength(motion, passes);
    const held = plantsWithin(plants ?? plantsFrom(contacts), motion.frames);
    const untimed = passes.filter((step) => !last(step)).length + 1;
    const wanted = [
      ...passes.filter((step) => !last(step)).map(pass),
      { key: `plants ${JSON.stringify(held)}`, run: (current: Motion): Motion => holdPlants(current, held) },
      ...passes.filter(last).map(pass),
    ];
    let same = 0;
    while (same < wanted.length && this.steps[same]?.key === wanted[same].key) same++;
    this.steps.length = same;
    this.ran = wanted.length - same;
    let result = same > 0 ? this.steps[same - 1].result : motion;
    for (const { key, run } of wanted.slice(same)) {
      result = run(result);
      this.steps.push({ key, result });
    }
    this.untimed = this.steps[untimed - 1].result;
    return result;
  }
}

/** A take's motion as it leaves the house. */
export const finishedMotion = (
  solved: Pick<SolvedTake, 'motion' | 'bridged' | 'contacts'>,
  edits: TakeEdits = NO_EDITS,
): Motion => new TakeEvaluator(solved).evaluate(edits);
