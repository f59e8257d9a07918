import type { Build } from '../choreography/script';
import { SOFT, type Finish } from '../render/light';
import { blended } from './blended';
import { caged } from './caged';
import { lofted } from './lofted';
import { muscled } from './muscled';
import type { BodyBuilder } from './part';

/** Each recipe for bodies, with the finish that its surfaces take the light with. */
export const BODY_BUILDERS: Record<Build, { build: BodyBuilder; finish: Finish }> = {
  blended: { build: blended, finish: SOFT },
  lofted: { build: lofted, finish: { wrap: 0, hollows: 0.4, gloss: 0.18, narrow: 24 } },
  muscled: { build: muscled, finish: { wrap: 0.4, hollows: 0.2, gloss: 0.05, narrow: 8 } },
  caged: { build: caged, finish: { wrap: 0.05, hollows: 0, gloss: 0.3, narrow: 60 } },
};
