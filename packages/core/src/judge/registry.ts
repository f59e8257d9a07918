import type { Judge, Judgement } from './judge';
import { blur } from './kinds/blur';
import { burnt } from './kinds/burnt';
import { camera } from './kinds/camera';
import { compression } from './kinds/compression';
import { contrast } from './kinds/contrast';
import { cuts } from './kinds/cuts';
import { face } from './kinds/face';
import { framing } from './kinds/framing';
import { light } from './kinds/light';
import { nobody } from './kinds/nobody';
import { noise } from './kinds/noise';
import { people } from './kinds/people';
import { pose } from './kinds/pose';
import { rate } from './kinds/rate';
import { size } from './kinds/size';
import type { Looks } from './looks';

/** Everything that footage is judged by. */
export const JUDGES: readonly Judge[] = [
  nobody,
  framing,
  size,
  light,
  burnt,
  blur,
  contrast,
  noise,
  compression,
  camera,
  cuts,
  people,
  rate,
  pose,
  face,
];

/** What will cost quality, worst first. */
export const judgeFootage = (looks: Looks): Judgement[] =>
  JUDGES.flatMap((judge) => judge.find(looks)).sort((a, b) => b.severity - a.severity || a.from - b.from);
