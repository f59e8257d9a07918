import { z } from 'zod';

/** What a key pose is: an extreme is where the movement turns or rests, a breakdown tells the way between two of them. */
export const KEY_POSE_KINDS = ['extreme', 'breakdown'] as const;

export const KeyPose = z.object({
  /** Frame of the clip. */
  frame: z.number().int(),
  as: z.enum(KEY_POSE_KINDS),
});
export type KeyPose = z.infer<typeof KeyPose>;

/** What lies between key poses: the motion as it is, the last pose held, straight ways, or ways that ease in and out of the extremes. */
export const BETWEEN_POSES = ['captured', 'held', 'straight', 'eased'] as const;
export type BetweenPoses = (typeof BETWEEN_POSES)[number];

/** The poses that carry a performance, and what lies between them. */
export const KeyPoses = z.object({
  /** In the order of their frames, one for a frame. */
  poses: z
    .array(KeyPose)
    .max(20_000)
    .refine(
      (poses) => poses.every(({ frame }, i) => i === 0 || frame > poses[i - 1].frame),
      'Key poses stand in the order of their frames, one for a frame.',
    )
    .default([]),
  between: z.enum(BETWEEN_POSES).default('captured'),
});
export type KeyPoses = z.infer<typeof KeyPoses>;

/** Poses with one more, or, where that frame has one already, without it. */
export function togglePose(poses: readonly KeyPose[], frame: number, as: KeyPose['as'] = 'extreme'): KeyPose[] {
  const others = poses.filter((pose) => pose.frame !== frame);
  return others.length < poses.length ? others : [...others, { frame, as }].sort((a, b) => a.frame - b.frame);
}

/** Poses with the one of a frame brought to another frame; one that was there gives way. */
export function movePose(poses: readonly KeyPose[], from: number, to: number): KeyPose[] {
  const moved = poses.find(({ frame }) => frame === from);
  if (!moved || from === to) return [...poses];
  return togglePose(
    poses.filter(({ frame }) => frame !== from && frame !== to),
    to,
    moved.as,
  );
}
