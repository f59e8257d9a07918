import { z } from 'zod';
import { MARK_COUNT, MARK_NAMES, type BodyObservations } from '../../observe/body';
import type { BothHands, HandObservations } from '../../observe/hands';
import { withSidesTraded } from '../../observe/untangle';

const ALL = MARK_NAMES.flatMap((name) => (name.startsWith('left') ? [name.slice('left'.length)] : []));

/** What the network may have taken for its other side, and the parts whose marks trade places then. */
const PARTS = {
  body: ALL,
  arms: ['Elbow', 'Wrist', 'Pinky', 'Index', 'Thumb'],
  legs: ['Knee', 'Ankle', 'Heel', 'FootIndex'],
} as const satisfies Record<string, readonly string[]>;
export const SWAPPED = ['arms', 'legs', 'body'] as const satisfies readonly (keyof typeof PARTS)[];

/** Frames from … until − 1 in which a person says that the network took left for right. */
export const SwappedSides = z.object({
  what: z.enum(SWAPPED),
  from: z.number().int(),
  until: z.number().int(),
});
export type SwappedSides = z.infer<typeof SwappedSides>;

type Seen = BodyObservations & { readonly hands?: BothHands | null };

/**
 * Observations with left and right traded where a person says so. Of a whole body the points are mirrored in depth, too: who took its front for its back saw it
 * facing the other way. Hands go with arms. @returns the observations themselves where nothing is said.
 */
export function withSwappedSides<T extends Seen>(observations: T, swapped: readonly SwappedSides[]): T {
  let out: Seen = observations;
  for (const one of swapped) {
    const flags = framesOf(one, observations.frames);
    if (!flags.includes(1)) continue;
    out = { ...out, ...withSidesTraded(out, flags, PARTS[one.what]) };
    if (one.what === 'body')
      flags.forEach((flag, frame) => {
        if (flag) for (let i = 0; i < MARK_COUNT; i++) out.world[(frame * MARK_COUNT + i) * 3 + 2] *= -1;
      });
    if (out.hands && one.what !== 'legs') out = { ...out, hands: withHandsTraded(out.hands, flags) };
  }
  return out as T;
}

/** Observations in which left and right were told apart, with the frames put back as they were told in which a person said which is which. */
export function keepingSwapped(
  apart: BodyObservations,
  told: BodyObservations,
  swapped: readonly SwappedSides[],
): BodyObservations {
  const spans = swapped.filter(({ from, until }) => until > 0 && from < told.frames);
  if (spans.length === 0 || apart === told) return apart;
  const [marks, world, depth] = [apart.marks.slice(), apart.world.slice(), apart.depth?.slice()];
  for (const one of spans)
    framesOf(one, told.frames).forEach((flag, frame) => {
      if (!flag) return;
      const [from, until] = [frame * MARK_COUNT, (frame + 1) * MARK_COUNT];
      marks.set(told.marks.subarray(from * 3, until * 3), from * 3);
      world.set(told.world.subarray(from * 3, until * 3), from * 3);
      if (depth && told.depth) depth.set(told.depth.subarray(from, until), from);
    });
  return { ...apart, marks, world, depth };
}

/** The same spans counted from another first frame. */
export const shiftSwapped = (swapped: readonly SwappedSides[], by: number): SwappedSides[] =>
  swapped.map((one) => ({ ...one, from: one.from + by, until: one.until + by }));

const framesOf = ({ from, until }: SwappedSides, frames: number): Uint8Array =>
  Uint8Array.from({ length: frames }, (_, frame) => (frame >= from && frame < until ? 1 : 0));

function withHandsTraded({ left, right }: BothHands, flags: Uint8Array): BothHands {
  const mixed = (own: HandObservations, other: HandObservations): HandObservations => {
    const column = (name: 'marks' | 'world' | 'presence'): Float32Array => {
      const out = own[name].slice();
      const width = out.length / flags.length;
      flags.forEach((flag, frame) => {
        if (flag) out.set(other[name].subarray(frame * width, (frame + 1) * width), frame * width);
      });
      return out;
    };
    return { marks: column('marks'), world: column('world'), presence: column('presence') };
  };
  return { left: mixed(left, right), right: mixed(right, left) };
}
