import type { BodyObservations } from '../../observe/body';
import { LEARNED_CORRECTION } from './learned-correction';
import { corrected, type Correction } from './network-correction';
import type { MeasuredBody } from '../body/proportions';

/** The observations with the network's points corrected by what was learned. @param correction another one, or null for none. */
export function withCorrection(
  observations: BodyObservations,
  { scale, proportions }: MeasuredBody,
  focal: number,
  correction: Correction | null = LEARNED_CORRECTION,
): BodyObservations {
  return correction ? corrected(observations, scale / proportions.height, focal, correction) : observations;
}
