import { z } from 'zod';
import { quat } from 'gl-matrix';
import { BODY_PARTS, type BodyPart } from '../motion/body-parts';
import { motionColumns } from '../motion/columns';
import { alignSigns, copyMotion, type Motion } from '../motion/motion';
import { easedShare } from '../signal/eased-share';
import { sharedRun, widenRun, type Run } from '../signal/runs';
import { NO_CONTEXT, type PassContext } from './pass';
import { passNamed } from './registry';

/** A pass with its options and where it counts: data, stored with the take. */
export const PassStep = z.object({
  pass: z.string(),
  options: z.record(z.string(), z.unknown()).default({}),
  muted: z.boolean().default(false),
  /** 0 leaves the motion as it is, 1 takes the result whole. */
  strength: z.number().min(0).max(1).default(1),
  /** Frames from … until − 1; null is the whole take. */
  range: z.tuple([z.number().int(), z.number().int()]).nullable().default(null),
  /** Frames over which the result comes in and goes out beside the range. */
  ease: z.number().int().min(0).max(120).default(5),
  /** null is the whole body. */
  parts: z.array(z.enum(BODY_PARTS)).nullable().default(null),
});
export type PassStep = z.infer<typeof PassStep>;

/**
 * Runs a list of passes in order. Range, strength, body parts and mute are seen to here, so that a
 * pass only ever knows whole motions. The input is left alone.
 * @throws Error when a step names no pass, or ZodError when its options don't fit.
 */
export function runPasses(motion: Motion, steps: readonly PassStep[], context: PassContext = NO_CONTEXT): Motion {
  return steps.reduce((current, step) => runPass(current, step, context), motion);
}

/**
 * Runs one step of the list.
 * @param at frame of the take that the motion begins with, where it is a part of it: the step's range counts the take's frames.
 */
export function runPass(motion: Motion, step: PassStep, context: PassContext, at = 0): Motion {
  if (step.muted || step.strength === 0) return motion;
  const pass = passNamed(step.pass);
  const result = pass.apply(motion, pass.options.parse(step.options), context);
  if (result === motion || pass.timing) return result;
  if (step.strength === 1 && step.range === null && step.parts === null) return result;
  const shares = Float64Array.from(
    { length: motion.frames },
    (_, frame) => step.strength * rangeShare(step, frame + at),
  );
  return blendMotions(motion, result, shares, (part) => step.parts === null || step.parts.includes(part));
}

/**
 * Checks that every step names a pass and that its options fit.
 * @throws Error with a sentence.
 */
export function checkSteps(steps: readonly Pick<PassStep, 'pass' | 'options'>[]): void {
  for (const { pass: name, options } of steps) {
    const pass = passNamed(name);
    const unknown = Object.keys(options).find(
      (key) => pass.options instanceof z.ZodObject && !(key in pass.options.shape),
    );
    if (unknown !== undefined)
      throw new Error(`The pass "${pass.title}" can't be used: it has no option called "${unknown}".`);
    const fits = pass.options.safeParse(options);
    if (fits.success) continue;
    const [{ path, message }] = fits.error.issues;
    throw new Error(`The pass "${pass.title}" can't be used: ${path.join('.')}: ${message}`);
  }
}

/** The frames that a step may change: its range with the ease beside it; null where it changes none. */
export function framesOf({ muted, strength, range, ease }: PassStep, frames: number): Run | null {
  if (muted || strength === 0) return null;
  if (range === null) return [0, frames];
  return range[1] > range[0] ? sharedRun(widenRun(range, ease), [0, frames]) : null;
}

/** 1 within the range, falling to 0 over the ease beside it. */
const rangeShare = ({ range, ease }: PassStep, frame: number): number =>
  range === null ? 1 : range[1] > range[0] ? easedShare(range, ease, frame) : 0;

/**
 * Blends two motions of one skeleton and length.
 * @param shares for each frame, 0 the first … 1 the second.
 * @param chosen which body parts take part.
 */
export function blendMotions(
  a: Motion,
  b: Motion,
  shares: ArrayLike<number>,
  chosen: (part: BodyPart) => boolean,
): Motion {
  const out = copyMotion(a);
  const [from, to]: [quat, quat] = [
    [0, 0, 0, 1],
    [0, 0, 0, 1],
  ];
  const [first, second] = [motionColumns(a), motionColumns(b)];
  motionColumns(out).forEach(({ part, width, data }, i) => {
    if (!chosen(part)) return;
    const [one, two] = [first[i].data, second[i].data];
    for (let frame = 0; frame < a.frames; frame++) {
      const [at, share] = [frame * width, shares[frame]];
      if (share === 0) continue;
      if (width !== 4) {
        for (let k = at; k < at + width; k++) data[k] += (two[k] - one[k]) * share;
        continue;
      }
      for (let k = 0; k < 4; k++) {
        from[k] = one[at + k];
        to[k] = two[at + k];
      }
      quat.slerp(from, from, to, share);
      for (let k = 0; k < 4; k++) data[at + k] = from[k];
    }
  });
  alignSigns(out);
  return out;
}
