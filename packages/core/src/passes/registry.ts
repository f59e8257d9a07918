import { blendEnds } from './blend-ends';
import { calmFingers } from './calm-fingers';
import { cleanBlinks } from './clean-blinks';
import { closeLoop } from './close-loop';
import { downToFloor } from './down-to-floor';
import { exaggerate } from './exaggerate';
import { faceStrength } from './face-strength';
import { clearFloor } from './clear-floor';
import { fillGaps } from './fill-gaps';
import { hipHeight } from './hip-height';
import { holdGaze } from './hold-gaze';
import { keepApart } from './keep-apart';
import { legLoop } from './leg-loop';
import { mirrorFace } from './mirror-face';
import { mirrorMotion } from './mirror-motion';
import type { Pass } from './pass';
import { removePops } from './remove-pops';
import { resample } from './resample';
import { retime } from './retime';
import { rootDrift } from './root-drift';
import { shapeHand } from './shape-hand';
import { smooth } from './smooth';
import { swapSides } from './swap-sides';
import { trim } from './trim';

/** Every pass there is, in the order in which they are usually wanted. Documents name a pass by its `name`. */
export const PASSES = [
  removePops,
  fillGaps,
  swapSides,
  smooth,
  hipHeight,
  clearFloor,
  downToFloor,
  rootDrift,
  keepApart,
  legLoop,
  exaggerate,
  calmFingers,
  shapeHand,
  faceStrength,
  cleanBlinks,
  mirrorFace,
  holdGaze,
  mirrorMotion,
  trim,
  closeLoop,
  blendEnds,
  retime,
  resample,
] as unknown as readonly Pass<unknown>[];

/** @throws Error when there is no pass of this name. */
export function passNamed(name: string): Pass<unknown> {
  const pass = PASSES.find((item) => item.name === name);
  if (!pass) throw new Error(`There is no pass called "${name}".`);
  return pass;
}
