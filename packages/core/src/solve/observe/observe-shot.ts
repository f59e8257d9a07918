import { DEFAULT_FIELD_OF_VIEW, focalFromFieldOfView } from '../../camera/pinhole';
import type { SolvedFootage } from '../../observe/slice-footage';
import { cameraTurns, untoldShare, widestTurn, withSteadyView } from '../../observe/steady-view';
import { withSidesApart } from '../../observe/told-apart';
import { keepingSwapped, type SwappedSides } from '../hints/swapped-sides';
import type { SolveOptions } from '../solved';
import { withFeetAhead } from './feet-ahead';
import { legsUnseen, withoutLegs } from './without-legs';

/** What somebody's pose is estimated from, frame by frame. */
export interface SeenBody {
  /** With hands and face. */
  steady: SolvedFootage;
  /** The body, with legs and feet told apart. */
  observations: SolvedFootage;
  focal: number;
}

/** What was seen in a shot, as a camera would have seen it that stands still. */
export interface SeenShot extends SeenBody {
  /** False where nothing that is told of the legs is believed: of who sits, and of who is filmed from the waist up. */
  legs: boolean;
  /** See `SolvedTake`. */
  turned: number;
  untold: number;
}

/**
 * Takes out what the camera moved, and what the network is known to confuse.
 * @param swapped where a person said which side is left: it stays as they said.
 */
export function observeShot(
  footage: SolvedFootage,
  options: SolveOptions,
  swapped: readonly SwappedSides[] = [],
): SeenShot {
  const focal = focalFromFieldOfView(options.fieldOfView ?? DEFAULT_FIELD_OF_VIEW, footage.width, footage.height);
  const turns = options.steady === false ? null : cameraTurns(footage, focal);
  const steady = withSteadyView(footage, turns, focal);
  const legs = options.manner !== 'seated' && !legsUnseen(steady);
  const observations = legs
    ? withFeetAhead(keepingSwapped(withSidesApart(steady), steady, swapped))
    : withoutLegs(steady);
  return { steady, observations, legs, focal, turned: widestTurn(turns), untold: untoldShare(footage) };
}
