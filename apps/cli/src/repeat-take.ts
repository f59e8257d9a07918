import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';

type Part = Pick<SolvedTake, 'motion' | 'bridged' | 'contacts'>;

/** A take that goes through its motion over and over until it has so many frames: what speeds are measured on. */
export function repeatTake({ motion, bridged, contacts }: Part, frames: number): Part {
  const source = (frame: number): number => frame % motion.frames;
  const joints = motion.skeleton.joints.length;
  const rotations = new Float32Array(joints * frames * 4);
  const root = new Float32Array(frames * 3);
  for (let frame = 0; frame < frames; frame++) {
    const from = source(frame);
    root.set(motion.root.subarray(from * 3, from * 3 + 3), frame * 3);
    for (let joint = 0; joint < joints; joint++) {
      const at = (joint * motion.frames + from) * 4;
      rotations.set(motion.rotations.subarray(at, at + 4), (joint * frames + frame) * 4);
    }
  }
  return {
    motion: { ...motion, frames, rotations, root },
    bridged: Uint8Array.from({ length: frames }, (_, frame) => bridged[source(frame)]),
    contacts:
      contacts &&
      (Object.fromEntries(
        Object.entries(contacts).map(([name, weights]) => [
          name,
          Float64Array.from({ length: frames }, (_, frame) => weights[source(frame)]),
        ]),
      ) as SolvedTake['contacts']),
  };
}
