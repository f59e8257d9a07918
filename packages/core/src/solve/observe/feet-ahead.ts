import { vec3 } from 'gl-matrix';
import { SIDES } from '../../motion/humanoid';
import { isSeen, MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';
import { leftAxes } from '../../observe/left-axes';

/** The least cosine between a foot and the front of its shin: 60° to the side, or stretched by as much. */
const LEAST_AHEAD = 0.5;

/**
 * The same observations with feet that point the way of their shins: seen from behind, the network takes feet to point to
 * the side or to the camera now and then. What points farther away from the front of the shin than a foot can is brought back to
 * there, toe and heel about their middle. The input is left alone.
 */
export function withFeetAhead(observations: BodyObservations): BodyObservations {
  const world = observations.world.slice();
  const axes = leftAxes(observations);
  for (let frame = 0; frame < observations.frames; frame++) {
    if (!isSeen(observations, frame)) continue;
    const left: vec3 = [axes[frame * 3], axes[frame * 3 + 1], axes[frame * 3 + 2]];
    for (const side of SIDES) {
      const at = (part: string): number => (frame * MARK_COUNT + MARK[`${side}${part}` as MarkName]) * 3;
      const line = (from: number, to: number): vec3 => [0, 1, 2].map((k) => world[to + k] - world[from + k]) as vec3;
      const front = vec3.cross([0, 0, 0], left, line(at('Ankle'), at('Knee')));
      const [heel, toe] = [at('Heel'), at('FootIndex')];
      const foot = line(heel, toe);
      const length = vec3.length(foot);
      if (vec3.length(front) < 1e-6 || length < 1e-6) continue;
      vec3.normalize(front, front);
      const ahead = vec3.dot(foot, front) / length;
      if (ahead >= LEAST_AHEAD) continue;
      const turned = vec3.scaleAndAdd([0, 0, 0], foot, front, (LEAST_AHEAD - ahead) * length);
      vec3.scale(turned, turned, length / vec3.length(turned));
      for (let k = 0; k < 3; k++) {
        const shift = (turned[k] - foot[k]) / 2;
        world[heel + k] -= shift;
        world[toe + k] += shift;
      }
    }
  }
  return { ...observations, world };
}
