import type { BodyObservations } from './body';
import { withBodyFacing } from './untangle-body';
import { withLegsApart } from './untangle-legs';

/** The same observations with left and right told apart: first of whole bodies, then of legs. */
export const withSidesApart = (observations: BodyObservations): BodyObservations =>
  withLegsApart(withBodyFacing(observations));
