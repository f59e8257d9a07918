import { copyMotion, type Motion } from '../../motion/motion';
import { checkResultLength, type TimedStep } from '../../passes/result-size';
import type { MotionLength } from '../../passes/pass';
import { passNamed } from '../../passes/registry';
import { joinRuns, sharedRun, type Run } from '../../signal/runs';
import { differingFrames, pasteMotion, sliceMotion } from '../../signal/slice-motion';
import type { SolvedTake } from '../../solve/solve-take';
import { foundPlants, plantsOf, type HeldPlant } from '../plants-of';
import { kindOf, recordsInUse, type EditRecord } from '../registry';
import { NO_EDITS, type TakeEdits } from '../take-edits';
import { plantsStep } from './plants-step';
import { tethersStep } from './tethers-step';
import type { Step } from '../step';

/** What an evaluation begins with. */
export type Evaluated = Pick<SolvedTake, 'motion' | 'bridged' | 'contacts'>;

/** A step with its last result; nothing where that was not kept. */
interface Kept {
  step: Step;
  input: Motion | null;
  result: Motion | null;
}

/** A step's last result, and the frames outside of which the present one is the same; null where it is the same throughout. */
interface Changed {
  old: Motion;
  span: Run | null;
}

/** Bytes of results that are kept, so that long takes with many steps fit. */
const MOST_BYTES = 256e6;

/**
 * Evaluates a take with what was laid over it, step by step: passes in their order, then tethers, then plants, then key poses, then the timing. The result of each step is
 * kept: after a change only frames that it may have changed are evaluated again, with the same result to the bit as evaluating all.
 */
export class TakeEvaluator {
  private kept: Kept[] = [];
  /** Frames that the last evaluation ran, summed over its steps. */
  framesRun = 0;

  private readonly found: readonly HeldPlant[];

  constructor(private readonly solved: Evaluated) {
    this.found = foundPlants(solved.contacts, 0);
  }

  /** The plants that hold, in frames of the take. */
  plants(edits: TakeEdits): HeldPlant[] {
    return plantsOf(edits, this.found);
  }

  /**
   * The motion in the take's own time: without what changes the timing. Motions that were given out before are left alone.
   * @throws Error when a record names no pass or its options don't fit.
   */
  untimed(edits: TakeEdits): Motion {
    const steps = this.steps(edits);
    this.framesRun = 0;
    const before = new Map(this.kept.map((kept) => [kept.step.id, kept]));
    const unchanged = this.unchanged(steps);
    const kept = this.kept.slice(0, unchanged);
    let motion = kept.at(-1)?.result ?? this.solved.motion;
    let last: Changed | null = null;
    for (const step of steps.slice(unchanged)) {
      const known = before.get(step.id);
      const [result, span]: [Motion, Run | null] = this.update(step, motion, known, last);
      last = known?.result ? { old: known.result, span } : null;
      kept.push({ step, input: motion, result });
      motion = result;
    }
    this.kept = bounded(kept);
    return motion;
  }

  /** Some frames of the motion in the take's own time, evaluated alone: for what is being dragged. Nothing is kept of them. */
  framesIn(edits: TakeEdits, run: Run): Motion {
    const steps = this.steps(edits);
    const unchanged = this.unchanged(steps);
    const from = this.kept[unchanged - 1]?.result ?? this.solved.motion;
    const rest = steps.slice(unchanged);
    // From the wanted frames back: what each step needs of the one before.
    const wanted: Run[] = [run];
    for (const step of [...rest].reverse())
      wanted.unshift(sharedRun(step.frames, wanted[0]) ? step.needs(wanted[0]) : wanted[0]);
    return rest.reduce(
      (motion, step, i) => this.ran(step, motion, wanted[i][0], wanted[i + 1]),
      sliceMotion(from, ...wanted[0]),
    );
  }

  /** How long the motion is that is exported. @throws ResultTooLongError when the timing would make far more frames than there are. */
  exportLength(edits: TakeEdits): MotionLength {
    return checkResultLength(this.solved.motion, timingOf(edits));
  }

  /** What is done in its order: records that are steps of their own, then the tethers, then the plants, then records that come after them; the timing comes last, when the motion is exported. */
  private steps(edits: TakeEdits): Step[] {
    const { motion, bridged } = this.solved;
    const { frames, rate } = motion;
    const stage = (record: EditRecord): number => kindOf(record).stage ?? 0;
    const inOrder = edits.records.filter(({ muted }) => !muted).sort((a, b) => stage(a) - stage(b));
    const own = (late: boolean): Step[] =>
      inOrder
        .filter((record) => (kindOf(record).afterPlants ?? false) === late)
        .flatMap((record) => kindOf(record).step?.(record, { frames, rate, bridged }) ?? []);
    const tethers = tethersStep(recordsInUse(edits.records, 'tether'), frames);
    return [...own(false), tethers, plantsStep(this.plants(edits), frames, rate), ...own(true)];
  }

  /** How many steps from the first on are as they were, up to the last one whose result is kept. */
  private unchanged(steps: readonly Step[]): number {
    let [known, i] = [0, 0];
    for (; i < steps.length && this.kept[i]?.step.key === steps[i].key; i++) if (this.kept[i].result) known = i + 1;
    return known;
  }

  /**
   * A step's result for a whole motion, with frames of its last result where these still stand.
   * @param last what the step before changed. @returns with it frames outside of which it is as the last one.
   */
  private update(
    step: Step,
    input: Motion,
    before: Kept | undefined,
    last: Changed | null,
  ): [result: Motion, span: Run | null] {
    let [base, span]: [Motion, Run | null] = [input, step.frames];
    if (before?.input && before.result) {
      base = before.result;
      // What the step before left alone need not be compared.
      const within = last?.old === before.input ? last.span : ([0, input.frames] as const);
      const came = within && differingFrames(before.input, input, within);
      const own = before.step.key === step.key ? null : step.changedFrom(before.step);
      span = joinRuns(joinRuns(came, own), came && sharedRun(step.affects(came), step.frames));
    }
    if (span === null) return [base, null];
    const out = copyMotion(base);
    const own = sharedRun(step.frames, span);
    const all = own !== null && own[0] === span[0] && own[1] === span[1];
    if (base !== input && !all) pasteMotion(out, sliceMotion(input, ...span), span[0]);
    if (own) {
      const needed = step.needs(own);
      pasteMotion(out, this.ran(step, sliceMotion(input, ...needed), needed[0], own), own[0]);
    }
    // Turns may have changed their sign up to the end.
    return [out, [span[0], input.frames]];
  }

  /** A step's result for some frames. @param at the first frame of the input. */
  private ran(step: Step, input: Motion, at: number, wanted: Run): Motion {
    if (!sharedRun(step.frames, wanted)) return sliceMotion(input, wanted[0] - at, wanted[1] - at);
    this.framesRun += wanted[1] - wanted[0];
    return step.run(input, at, wanted);
  }
}

/** The same steps, without the results of the first ones where all together would be too many bytes. */
function bounded(kept: Kept[]): Kept[] {
  const size = kept.reduce((most, { result }) => Math.max(most, result?.rotations.byteLength ?? 0), 1);
  const most = Math.max(2, Math.floor(MOST_BYTES / size));
  const first = Math.max(0, kept.length - most);
  return kept.map((item, i) =>
    i < first ? { ...item, input: null, result: null } : i === first && first > 0 ? { ...item, input: null } : item,
  );
}

const timingOf = ({ records }: TakeEdits): TimedStep[] => recordsInUse(records, 'timing');

/** A take's motion as it leaves the house: edits and timing. */
export function finishedMotion(solved: Evaluated, edits: TakeEdits = NO_EDITS): Motion {
  const evaluator = new TakeEvaluator(solved);
  evaluator.exportLength(edits);
  return timingOf(edits).reduce((motion, { pass: name, options }) => {
    const pass = passNamed(name);
    return pass.apply(motion, pass.options.parse(options), { bridged: null });
  }, evaluator.untimed(edits));
}
