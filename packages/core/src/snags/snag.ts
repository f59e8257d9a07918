import type { Plant, Resting } from '../ground/plants';
import type { Motion } from '../motion/motion';
import type { Unseen } from '../observe/unseen';
import type { PassStep } from '../passes/run-passes';
import type { Tether } from '../posing/tether';

export const SNAG_KINDS = [
  'pop',
  'shake',
  'slide',
  'sink',
  'hover',
  'swap',
  'gap',
  'stretch',
  'crossing',
  'hand-lost',
  'face-lost',
  'finger-shake',
  'half-blink',
  'gaze-jump',
] as const;
export type SnagKind = (typeof SNAG_KINDS)[number];

/** A fault found in a motion. */
export interface Snag {
  kind: SnagKind;
  /** The joint or part it is seen at. */
  joint: string;
  /** Frames from … until − 1. */
  from: number;
  until: number;
  /** How bad it is, in its unit. */
  severity: number;
  unit: '°' | 'cm' | 's' | '%';
  /** What may mend it, the likeliest first; none where only a person can tell. */
  mends: readonly Mending[];
}

/** What may mend a snag: a pass about it, or plants. */
export type Mending = { pass: PassStep } | { plants: Plant[] };

/** What snags are looked for in: a motion in the take's own time. */
export interface SnagContext {
  motion: Motion;
  plants: readonly Plant[];
  /** What a person tethered; nothing where none is known. */
  tethers?: readonly Tether[];
  bridged: Uint8Array | null;
  /** 1 for frames in which a part was not seen; nothing of parts that were not captured. */
  unseen?: Unseen;
  /** How firmly soles rest by the picture, 0 … 1; the motion alone is looked at without. */
  contacts?: Partial<Resting<ArrayLike<number>>> | null;
}

/** One kind of fault: a file finds it. */
export interface SnagDetector {
  kind: SnagKind;
  title: string;
  find: (context: SnagContext) => Snag[];
}

/** Whether two snags are the same fault, told of two motions or at two times: of one kind, at one place, at frames that overlap. */
export const isSameSnag = (a: SnagPlace, b: SnagPlace): boolean =>
  a.kind === b.kind && a.joint === b.joint && a.from < b.until && b.from < a.until;
type SnagPlace = Pick<Snag, 'kind' | 'joint' | 'from' | 'until'>;
