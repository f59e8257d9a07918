import { quat, vec3 } from 'gl-matrix';
import type { Truth } from '@merry-shadow/core/measure/truth';
import { isSeen, MARK, MARK_COUNT } from '@merry-shadow/core/observe/body';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { withSidesApart } from '@merry-shadow/core/observe/told-apart';
import { MARK_PARTS, markPlace, type MarkPart } from '@merry-shadow/core/solve/body/joint-offsets';
import { solveLinear } from '@merry-shadow/core/signal/solve-linear';

/** Marks that are seen worse than this tell nothing; nor do those farther off than this, which were taken for something else: body heights. */
const VISIBLE = 0.7;
const FARTHEST = 0.12;
/** Beyond this they count less (Huber, 1964): body heights. */
const USUAL = 0.03;
/** Every few frames are looked at: neighbours tell nearly the same. */
const EACH = 3;

/** Normal equations of an offset of three parts. */
export interface OffsetSums {
  matrix: number[][];
  right: number[];
}

/** Sums to which nothing was added: an offset of 0. */
export const noSums = (): OffsetSums => ({
  matrix: [0, 1, 2].map((i) => [0, 1, 2].map((j) => (i === j ? 1e-6 : 0))),
  right: [0, 0, 0],
});

/** Adds what a clip tells of where marks lie beside their joints, by the joints' pictures against the marks. A camera that moves tells nothing. */
export function addOffsets(sums: Map<MarkPart, OffsetSums>, seen: Observations, truth: Truth): void {
  if (truth.cameraPath) return;
  const observations = withSidesApart(seen);
  const { axes, focal, position, width, height } = truth.camera;
  const inCamera = (row: number, v: ArrayLike<number>): number =>
    axes[row * 3] * v[0] + axes[row * 3 + 1] * v[1] + axes[row * 3 + 2] * v[2];
  for (let frame = 0; frame < Math.min(observations.frames, truth.frames); frame += EACH) {
    if (!isSeen(observations, frame)) continue;
    const turns = worldTurns(truth, frame);
    for (const part of MARK_PARTS)
      for (const side of ['left', 'right'] as const) {
        const mark = (frame * MARK_COUNT + MARK[`${side}${part}`]) * 3;
        if (!(observations.marks[mark + 2] > VISIBLE)) continue;
        const place = markPlace(side, part);
        const joint = truth.joints.indexOf(place.joint) * 3;
        const turn = turns[truth.joints.indexOf(place.turnsWith)];
        const line = [0, 1, 2].map((k) => truth.positions[frame][joint + k] - position[k]);
        const depth = -inCamera(2, line);
        const off = [
          ((observations.marks[mark] - width / 2) * depth) / focal - inCamera(0, line),
          ((height / 2 - observations.marks[mark + 1]) * depth) / focal - inCamera(1, line),
        ].map((metres) => metres / truth.height);
        const far = Math.hypot(...off);
        if (far > FARTHEST) continue;
        const slopes = [0, 1, 2].map((k) => {
          const axis: vec3 = [0, 0, 0];
          axis[k] = k === 0 && side === 'right' ? -1 : 1;
          vec3.transformQuat(axis, axis, turn);
          return [inCamera(0, axis), inCamera(1, axis)];
        });
        const weight = 1 / Math.max(1, far / USUAL);
        const { matrix, right } = sums.get(part) ?? noSums();
        for (let i = 0; i < 3; i++) {
          for (let j = 0; j < 3; j++)
            matrix[i][j] += weight * (slopes[i][0] * slopes[j][0] + slopes[i][1] * slopes[j][1]);
          right[i] += weight * (slopes[i][0] * off[0] + slopes[i][1] * off[1]);
        }
        sums.set(part, { matrix, right });
      }
  }
}

/** An offset that was told, body heights: +X to the side of the body, +Y up, +Z to the front. */
export const offsetOf = ({ matrix, right }: OffsetSums): number[] => solveLinear(matrix, right);

/**
 * What families of figures tell together of another one (random effects): their mean, drawn to nothing by how much they differ
 * (W. James and C. Stein, "Estimation with quadratic loss", 1961).
 */
export function shrunk(values: readonly number[]): { mean: number; deviation: number; shrunk: number } {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  const square = values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / Math.max(1, values.length - 1);
  const doubt = square * (1 + 1 / values.length);
  return { mean, deviation: Math.sqrt(square), shrunk: mean === 0 ? 0 : (mean * mean ** 2) / (mean ** 2 + doubt) };
}

function worldTurns({ joints, parents, rotations }: Truth, frame: number): quat[] {
  const turns: quat[] = [];
  joints.forEach((_, joint) => {
    const [x, y, z, w] = rotations[frame].slice(joint * 4, joint * 4 + 4);
    const parent = parents[joint];
    turns.push(parent < 0 ? [x, y, z, w] : quat.multiply([0, 0, 0, 1], turns[parent], [x, y, z, w]));
  });
  return turns;
}
