import { settleOnFloor } from '../ground/settle';
import { keepOnSpot, seat } from './after/manner';
import { standUp } from './after/stand';
import type { MeasuredBody } from './body/proportions';
import { fitShot } from './fit/fit-shot';
import { raised } from './floor/floor-plane';
import type { ShotGround } from './floor/shot-ground';
import { withCorrection } from './network/with-correction';
import type { SeenShot } from './observe/observe-shot';
import type { ShotSolution, SolveOptions } from './solved';
import { startShot, type ShotStart } from './start/start-shot';

/**
 * Turns what was seen in a shot into a motion of a body of given proportions, +Y up and the floor at y = 0. The hips
 * start over the origin.
 * @throws SolveError when nobody was seen.
 */
export function solveShot(
  seen: SeenShot,
  body: MeasuredBody,
  ground: ShotGround | null,
  options: SolveOptions,
): ShotSolution {
  const start = startShot(seen, body, ground, options);
  if (options.fit === false) return settled(start);
  const told = withCorrection(seen.observations, body, seen.focal, options.correction);
  const fitted = fitShot(
    start.motion,
    start.camera,
    told,
    body,
    seen.legs ? options : { ...options, contacts: false },
    ground,
  );
  const { bridged } = start;
  if (!seen.legs) {
    const motion = options.manner === 'seated' ? seat(fitted.motion) : standUp(fitted.motion);
    return { motion, camera: raised(fitted.camera, motion.root[1] - fitted.motion.root[1]), contacts: null, bridged };
  }
  if (options.manner === 'spot') keepOnSpot(fitted.motion);
  return { ...fitted, bridged };
}

/** The first estimate alone, stood on the floor. */
function settled({ motion, camera, bridged }: ShotStart): ShotSolution {
  const onFloor = settleOnFloor(motion);
  let lift = 0;
  for (let frame = 0; frame < motion.frames; frame++)
    lift += (onFloor.root[frame * 3 + 1] - motion.root[frame * 3 + 1]) / motion.frames;
  return { motion: onFloor, bridged, contacts: null, camera: raised(camera, lift) };
}
