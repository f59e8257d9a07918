import type { TakeView } from '@merry-shadow/contracts/take';
import { seconds } from '../shell/words';

type Parts = { hands: boolean; face: boolean; fine: boolean };

/** Frames a second before anything was tracked on this computer, and what each part costs: shares of the whole that were measured (docs/accuracy.md). */
const USUAL = 40;
const COST = { hands: 0.5, face: 0.25, fine: 0.9 };

const costOf = ({ hands, face, fine }: Parts): number =>
  (1 + (hands ? COST.hands : 0)) * (fine ? 1 + COST.fine : 1) + (face ? COST.face : 0);

/** Frames a second that this computer tracks of the body alone, by what was tracked so far. */
export function bodySpeed(takes: readonly TakeView[]): number {
  const plain = takes
    .flatMap(({ captured }) => (captured?.framesPerSecond ? [captured.framesPerSecond * costOf(captured)] : []))
    .sort((a, b) => a - b);
  return plain[plain.length >> 1] ?? USUAL;
}

/** How long tracking a take will take, seconds. @param speed see `bodySpeed`. */
export const trackingSeconds = ({ untilFrame, fromFrame, settings }: TakeView, speed: number): number =>
  ((untilFrame - fromFrame) * costOf(settings)) / speed;

/** "about 12 s". */
export function aboutSeconds(value: number): string {
  const rounded = value < 10 ? Math.ceil(value) : value < 60 ? Math.ceil(value / 5) * 5 : Math.ceil(value / 30) * 30;
  return `about ${seconds(rounded).replace(/\.\d+ s/, ' s')}`;
}
