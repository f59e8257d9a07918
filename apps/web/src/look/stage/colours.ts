import type { FacePaper } from '@merry-shadow/core/figure/cutout-face';
import { token } from '../../theme/token';

/** The stage's colours, read from the design tokens of the current lighting. */
export interface StageColours {
  ground: string;
  floor: string;
  line: string;
  left: string;
  right: string;
  middle: string;
  /** What a face is made of: `FACE_PAPERS`. */
  face: Record<FacePaper, string>;
}

export function stageColours(): StageColours {
  return {
    ground: token('--stage-ground'),
    floor: token('--stage-floor'),
    line: token('--stage-line'),
    left: token('--left'),
    right: token('--right'),
    middle: token('--middle'),
    face: {
      skin: token('--middle'),
      white: token('--face-white'),
      iris: token('--face-dark'),
      brow: token('--face-brow'),
      lip: token('--face-lip'),
      mouth: token('--face-dark'),
    },
  };
}
