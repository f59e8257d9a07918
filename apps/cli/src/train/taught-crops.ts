import type { HandCrop } from '@merry-shadow/tracker/hands/hand-crop';

/**
 * Ways to cut hands out, besides the usual one, that fingers are learned from, too: what the network gets wrong depends on how a hand lies in its square, so that the same picture teaches more
 * than once (as in A. Krizhevsky, I. Sutskever and G. Hinton, "ImageNet classification with deep convolutional neural networks", 2012).
 */
export const TAUGHT_CROPS: readonly HandCrop[] = [
  { turn: 0, size: 1, mirrored: true },
  { turn: 0.3, size: 1, mirrored: false },
  { turn: -0.3, size: 1, mirrored: false },
  { turn: 0, size: 0.85, mirrored: false },
  { turn: 0, size: 1.18, mirrored: false },
  { turn: 0.2, size: 0.9, mirrored: true },
  { turn: -0.2, size: 1.1, mirrored: true },
];
