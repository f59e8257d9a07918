import { crossing } from './crossing';
import { fingerShake } from './finger-shake';
import { gaps } from './gaps';
import { gazeJumps } from './gaze-jumps';
import { halfBlinks } from './half-blinks';
import { pops } from './pops';
import { shake } from './shake';
import type { Snag, SnagContext, SnagDetector, SnagKind } from './snag';
import { hover, sink, slide } from './soles';
import { stretch } from './stretch';
import { swaps } from './swaps';
import { faceLost, handLost } from './unseen';

/** Every kind of fault that is looked for. */
export const DETECTORS: readonly SnagDetector[] = [
  pops,
  shake,
  slide,
  sink,
  hover,
  swaps,
  gaps,
  stretch,
  crossing,
  fingerShake,
  halfBlinks,
  gazeJumps,
  handLost,
  faceLost,
];

export const snagTitle = (kind: SnagKind): string => DETECTORS.find((item) => item.kind === kind)?.title ?? kind;

/** Severities that a person would call equally bad, in each kind's unit. */
const WEIGHT: Record<SnagKind, number> = {
  pop: 15,
  shake: 1,
  slide: 4,
  sink: 3,
  hover: 4,
  swap: 15,
  gap: 0.3,
  stretch: 2,
  crossing: 4,
  'hand-lost': 3,
  'face-lost': 3,
  'finger-shake': 12,
  'half-blink': 80,
  'gaze-jump': 30,
};

/** How bad a snag is beside those of other kinds: 1 is what a person would see and mend. */
export const graveness = ({ kind, severity }: Pick<Snag, 'kind' | 'severity'>): number => severity / WEIGHT[kind];

/** All faults of a motion, worst first. */
export function findSnags(context: SnagContext): Snag[] {
  return DETECTORS.flatMap((detector) => detector.find(context)).sort(
    (a, b) => graveness(b) - graveness(a) || a.from - b.from,
  );
}
