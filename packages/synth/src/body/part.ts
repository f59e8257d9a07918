import type { Skeleton } from '@merry-shadow/core/motion/skeleton';
import type { Performer } from '../choreography/script';
import type { Surface } from './surface';

/** Shares of at most four bones in a vertex: joint numbers and weights that sum to 1. */
export type Binding = readonly (readonly [joint: number, weight: number])[];

/** A meshed piece of a performer with what it moves with. */
export interface FigurePart {
  surface: Surface;
  /** Name of the bone that a vertex's owner stands for. */
  bone: (owner: number) => string;
  /** How each vertex is bound; by distance to the bones where it is left out. */
  binding?: (vertex: number) => Binding;
  /** Painted with a face. */
  face?: boolean;
  /** Moves with its bone alone. */
  rigid?: boolean;
}

/** What a builder makes of a body: trunk, limbs and feet, and the head. Hands and clothes are the same for all. */
export interface BuiltBody {
  body: FigurePart;
  /** Built where it is asked for: a performer may have another. */
  head: () => FigurePart;
}

/** A recipe for bodies over a skeleton in T-pose. */
export type BodyBuilder = (performer: Performer, skeleton: Skeleton) => BuiltBody;
