import { z } from 'zod';
import { BODY_PARTS, bodyPartOf } from '../motion/body-parts';

/** Most frames over which a layer comes in before its first key and goes out after its last one. */
export const MOST_EASE = 300;

/**
 * What a layer does to a frame. In an offset layer `turns` are laid over the turns of joints: in the axes of the joint's parent, so that an arm is
 * lifted whichever way it is twisted; those of the root joint in its own axes, so that who turns about keeps a lean. In one that overrides they are the
 * joints' local turns themselves. Only joints that are named have a key in that frame.
 */
export const LayerKey = z.object({
  /** Frame of the clip. */
  frame: z.number().int(),
  /** Quaternions (x, y, z, w) by the name of the joint. */
  turns: z.record(z.string(), z.tuple([z.number(), z.number(), z.number(), z.number()])).default({}),
  /** Where the root is, or how far it is moved, metres in the world. */
  root: z.tuple([z.number(), z.number(), z.number()]).nullable().default(null),
});
export type LayerKey = z.infer<typeof LayerKey>;

/** Corrections by hand that lie over a motion as keys, with the way between them filled in. */
export const Layer = z.object({
  name: z.string().trim().min(1).max(80),
  /** `offset` moves with the motion below; `override` stands in its place. */
  mode: z.enum(['offset', 'override']).default('offset'),
  /** 0 leaves the motion as it is, 1 takes the layer whole. */
  strength: z.number().min(0).max(1).default(1),
  /** Frames over which a channel comes in before its first key, and goes out after its last one. */
  ease: z.number().int().min(0).max(MOST_EASE).default(10),
  /** Holds the first and last key to the ends of the take instead of easing. */
  hold: z.boolean().default(false),
  /** null is the whole body. */
  parts: z.array(z.enum(BODY_PARTS)).nullable().default(null),
  /** In the order of their frames, one for a frame. */
  keys: z
    .array(LayerKey)
    .max(20_000)
    .refine(
      (keys) => keys.every(({ frame }, i) => i === 0 || frame > keys[i - 1].frame),
      'Keys stand in the order of their frames, one for a frame.',
    )
    .default([]),
});
export type Layer = z.infer<typeof Layer>;

/** The channel of the root's place beside those of joints. */
export const ROOT = 'root';

/** Whether a layer may change a channel: the name of a joint, or `root`. */
export const reachesChannel = ({ parts }: Pick<Layer, 'parts'>, channel: string): boolean =>
  parts === null || parts.includes(channel === ROOT ? 'root' : bodyPartOf(channel));

/** Keys of one layer with one of them put in, in the place of what was keyed in that frame for the same channels. */
export function putKey(keys: readonly LayerKey[], key: LayerKey): LayerKey[] {
  const there = keys.find(({ frame }) => frame === key.frame);
  const merged: LayerKey = there
    ? { frame: key.frame, turns: { ...there.turns, ...key.turns }, root: key.root ?? there.root }
    : key;
  return [...keys.filter((other) => other !== there), merged].sort((a, b) => a.frame - b.frame);
}

/** Keys without those of a frame. */
export const dropKey = (keys: readonly LayerKey[], frame: number): LayerKey[] =>
  keys.filter((key) => key.frame !== frame);

/** Keys with those of one frame brought to another; what was keyed there before gives way. */
export function moveKey(keys: readonly LayerKey[], from: number, to: number): LayerKey[] {
  const moved = keys.find(({ frame }) => frame === from);
  if (!moved || from === to) return [...keys];
  return [...keys.filter(({ frame }) => frame !== from && frame !== to), { ...moved, frame: to }].sort(
    (a, b) => a.frame - b.frame,
  );
}
