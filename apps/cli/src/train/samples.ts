import type { Truth } from '@merry-shadow/core/measure/truth';
import { isSeen, MARK, MARK_COUNT, type MarkName } from '@merry-shadow/core/observe/body';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { withSidesApart } from '@merry-shadow/core/observe/told-apart';
import {
  CORRECTED,
  correctionInput,
  INPUTS,
  LOOKED_AT,
  OUTPUTS,
} from '@merry-shadow/core/solve/network/network-correction';
import { markPlace, type MarkPart } from '@merry-shadow/core/solve/body/joint-offsets';
import { measureBody } from '@merry-shadow/core/solve/body/proportions';

/** One frame to learn from: what was seen, where the network's points lie, and where the joints truly are; body heights from the middle of the hips. */
export interface Sample {
  clip: string;
  input: Float32Array;
  points: Float32Array;
  joints: Float32Array;
}

/** Frames that are taken of a second: neighbours tell nearly the same. */
const TAKEN = 10;

/** Some frames of a clip whose camera stands still as samples. */
export function samplesOf(seen: Observations, truth: Truth, clip: string): Sample[] {
  if (truth.cameraPath) return [];
  const observations = withSidesApart(seen);
  const { world } = observations;
  const { axes, focal } = truth.camera;
  const body = measureBody(observations, truth.height);
  const perMetre = body.scale / body.proportions.height;
  const joints = CORRECTED.map((mark) => {
    const side = mark.startsWith('left') ? 'left' : 'right';
    return truth.joints.indexOf(markPlace(side, mark.slice(side.length) as MarkPart).joint) * 3;
  });
  const hips = (['leftUpperLeg', 'rightUpperLeg'] as const).map((name) => truth.joints.indexOf(name) * 3);
  const samples: Sample[] = [];
  const each = Math.max(1, Math.round(observations.rate / TAKEN));
  for (let frame = 0; frame < Math.min(observations.frames, truth.frames); frame += each) {
    if (!isSeen(observations, frame)) continue;
    const input = correctionInput(observations, frame, perMetre, focal);
    if (!input) continue;
    const at = (mark: MarkName): number => (frame * MARK_COUNT + MARK[mark]) * 3;
    const middle = [0, 1, 2].map((k) => (world[at('leftHip') + k] + world[at('rightHip') + k]) / 2);
    const real = truth.positions[frame];
    const realMiddle = [0, 1, 2].map((k) => (real[hips[0] + k] + real[hips[1] + k]) / 2);
    const points = Float32Array.from({ length: OUTPUTS }, (_, i) => {
      const mark = CORRECTED[Math.floor(i / 3)];
      return (world[at(mark) + (i % 3)] - middle[i % 3]) * perMetre;
    });
    const places = Float32Array.from({ length: OUTPUTS }, (_, i) => {
      const joint = joints[Math.floor(i / 3)];
      const row = (i % 3) * 3;
      return [0, 1, 2].reduce((sum, k) => sum + axes[row + k] * (real[joint + k] - realMiddle[k]), 0) / truth.height;
    });
    samples.push({ clip, input, points, joints: places });
  }
  return samples;
}

const other = (mark: MarkName): MarkName =>
  mark.replace(/^left|^right/, (side) => (side === 'left' ? 'right' : 'left')) as MarkName;
const LOOKED_MIRROR = LOOKED_AT.map((mark) => LOOKED_AT.indexOf(other(mark)));
const CORRECTED_MIRROR = CORRECTED.map((mark) => CORRECTED.indexOf(other(mark)));

/** The same frame in a mirror. */
export function mirrored(sample: Sample): Sample {
  const input = new Float32Array(INPUTS);
  LOOKED_MIRROR.forEach((from, to) => {
    for (let k = 0; k < 6; k++) input[to * 6 + k] = (k === 0 || k === 3 ? -1 : 1) * sample.input[from * 6 + k];
  });
  input[INPUTS - 2] = -sample.input[INPUTS - 2];
  input[INPUTS - 1] = sample.input[INPUTS - 1];
  const flipped = (values: Float32Array): Float32Array => {
    const out = new Float32Array(OUTPUTS);
    CORRECTED_MIRROR.forEach((from, to) => {
      for (let k = 0; k < 3; k++) out[to * 3 + k] = (k === 0 ? -1 : 1) * values[from * 3 + k];
    });
    return out;
  };
  return { ...sample, input, points: flipped(sample.points), joints: flipped(sample.joints) };
}
