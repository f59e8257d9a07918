import { project, rayThrough, type PinholeCamera } from '../../camera/pinhole';
import type { Motion } from '../../motion/motion';
import { MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';
import { BodyModel } from './body-model';

const LEAST_VISIBILITY = 0.3;
/** Rays flatter than this (fall for each metre along the view) meet the floor nowhere certain. */
const FLATTEST = 0.03;

/**
 * Where each sole point would stand on the floor if it stood there: the ray through its picture met with
 * y = 0. A planted sole stays where it is whatever depth the network tells of it; one that swings runs.
 * @returns frames × soles × 3: x and z, metres, and how far a pixel moves it; NaN where it is not seen.
 */
export function floorSight(
  motion: Motion,
  camera: PinholeCamera,
  observations: BodyObservations,
  height: number,
): Float64Array {
  const model = new BodyModel(motion, height);
  const out = new Float64Array(motion.frames * model.soles.length * 3).fill(NaN);
  const seenAt = model.soles.map((sole) => {
    const name = model.points[sole].name.replace('HeelSole', 'Heel').replace('ToeSole', 'FootIndex');
    return model.points.findIndex((point) => point.name === name);
  });
  const pixel = (p: number): [number, number, number] =>
    project(camera, model.places[p * 3], model.places[p * 3 + 1], model.places[p * 3 + 2]);
  for (let frame = 0; frame < motion.frames; frame++) {
    model.evaluate(frame);
    model.soles.forEach((sole, s) => {
      const m = (frame * MARK_COUNT + MARK[model.points[seenAt[s]].name as MarkName]) * 3;
      if (!(observations.marks[m + 2] > LEAST_VISIBILITY)) return;
      const [from, to] = [pixel(seenAt[s]), pixel(sole)];
      const ray = rayThrough(
        camera,
        observations.marks[m] + to[0] - from[0],
        observations.marks[m + 1] + to[1] - from[1],
      );
      if (!(ray[1] < -FLATTEST) || from[2] <= 0) return;
      const far = -camera.position[1] / ray[1];
      const at = (frame * model.soles.length + s) * 3;
      out[at] = camera.position[0] + far * ray[0];
      out[at + 1] = camera.position[2] + far * ray[2];
      out[at + 2] = camera.position[1] / (ray[1] * ray[1]) / camera.focal;
    });
  }
  return out;
}
