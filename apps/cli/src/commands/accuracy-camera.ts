import { mat3 } from 'gl-matrix';
import { join } from 'node:path';
import {
  cameraMotionFocal,
  cameraMotionMap,
  cameraMotionOf,
  CAMERA_MOTION_WIDTH,
  type CameraMotion,
} from '@merry-shadow/core/camera/camera-motion';
import { nearestPeople } from '@merry-shadow/core/measure/measure-marks';
import { measureMotion } from '@merry-shadow/core/measure/measure-motion';
import type { Truth } from '@merry-shadow/core/measure/truth';
import type { Motion } from '@merry-shadow/core/motion/motion';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { sampleMotion } from '@merry-shadow/core/signal/sample-motion';
import { finishedMotion } from '@merry-shadow/core/edits/evaluate/take-evaluator';
import { foundCuts } from '@merry-shadow/core/solve/shots/shots';
import { solveTake, type SolvedTake, type SolveOptions } from '@merry-shadow/core/solve/solve-take';
import { fieldOfViewOf, measuredClips, scriptsIn } from '../measured-clips';
import { DATA, ROOT } from '../paths';
import { tableLine } from '../table';

const DEGREES = 180 / Math.PI;
/** What each folder of choreographies under `demo` is there to measure. */
export const CAMERA_CLIPS = ['stillness', 'shots', 'poses'] as const;
const COLUMNS = [
  'clip',
  'camera told',
  'off, mean',
  'growth told',
  'untold',
  'cuts',
  'pose',
  'PA-MPJPE mm (raw)',
  'whole clip mm (raw)',
  'movement left in mm',
  'slide mm/frame',
];

/**
 * Prints for each clip of a folder what was told of camera, cuts and calibration pose, and the figures of the solve; for
 * each shot of a clip with cuts its own figures, too; and the mean against the raw network.
 */
export async function measureCameras(folder: (typeof CAMERA_CLIPS)[number]): Promise<void> {
  process.stdout.write(tableLine(COLUMNS) + tableLine(COLUMNS.map(() => '---')));
  const ratios: { pa: number; whole: number }[] = [];
  for await (const { name, tracked, truths } of measuredClips(
    await scriptsIn(join(ROOT, 'demo', folder)),
    join(DATA, folder),
  ))
    for (const observations of tracked) {
      // Performers are tracked in the order in which they stand out, not in the script's.
      const counts = nearestPeople(observations, truths);
      const truth = truths[counts.indexOf(Math.max(...counts))];
      const solved = solve(observations, truth);
      const motion = finishedMotion(solved);
      const raw = measureMotion(solve(observations, truth, { fit: false, smooth: false }).motion, truth);
      const own = measureMotion(motion, truth);
      const leftIn = measureMotion(finishedMotion(solve(observations, truth, { steady: false })), truth);
      const { turn, growth, off } = told(observations, truth);
      const { pose } = solved.body;
      ratios.push({ pa: own.paMpjpeMm / raw.paMpjpeMm, whole: own.wholeClipMpjpeMm / raw.wholeClipMpjpeMm });
      const cells = [
        truths.length > 1 ? `${name}, ${truth.performer}` : name,
        `${(turn * DEGREES).toFixed(2)}°`,
        off === null ? '–' : `${(off * DEGREES).toFixed(2)}°`,
        `${(growth * 100).toFixed(1)} %`,
        `${(solved.untold * 100).toFixed(0)} %`,
        foundCuts(observations).join(' ') || '–',
        pose ? `${pose.kind} ${pose.from}–${pose.until - 1}, square ${pose.square.toFixed(2)}` : '–',
        `${own.paMpjpeMm.toFixed(1)} (${raw.paMpjpeMm.toFixed(1)})`,
        `${own.wholeClipMpjpeMm.toFixed(1)} (${raw.wholeClipMpjpeMm.toFixed(1)})`,
        leftIn.wholeClipMpjpeMm.toFixed(1),
        own.footSlideMmPerFrame.toFixed(2),
      ];
      process.stdout.write(tableLine(cells) + shotLines(solved.shots, motion, truth));
    }
  const mean = (key: 'pa' | 'whole'): string =>
    (ratios.reduce((sum, ratio) => sum + ratio[key], 0) / ratios.length).toFixed(3);
  process.stdout.write(
    `\nagainst raw: PA-MPJPE ${mean('pa')}, whole clip ${mean('whole')} (${ratios.length} performers)\n`,
  );
}

function solve(observations: Observations, truth: Truth, options: SolveOptions = {}): SolvedTake {
  return solveTake(observations, { height: truth.height, fieldOfView: fieldOfViewOf(truth), ...options });
}

/** The figures of each shot by itself within the joined take; nothing where there is one only. */
function shotLines(shots: SolvedTake['shots'], motion: Motion, truth: Truth): string {
  if (shots.length < 2) return '';
  const lines = shots.map(({ from, until }, i) => {
    const frames = Float64Array.from({ length: until - from }, (_, k) => from + k);
    const cut = <T>(list: readonly T[]): T[] => list.slice(from, until);
    const own: Truth = {
      ...truth,
      positions: cut(truth.positions),
      rotations: cut(truth.rotations),
      contacts: Object.fromEntries(
        Object.entries(truth.contacts).map(([name, list]) => [name, cut(list)]),
      ) as Truth['contacts'],
    };
    const figures = measureMotion(sampleMotion(motion, frames, motion.rate), own);
    return tableLine([
      ...[`… shot ${i + 1} alone`, '', '', '', '', `${from}–${until - 1}`, ''],
      ...[figures.paMpjpeMm.toFixed(1), figures.wholeClipMpjpeMm.toFixed(1), ''],
      figures.footSlideMmPerFrame.toFixed(2),
    ]);
  });
  return lines.join('');
}

/**
 * The farthest that the picture is said to have turned from the first frame, radians, and to have grown; and how far the
 * direction of the camera is off in the mean, null where it stands still or is another one after a cut. (What a hand shifts a camera shows as a turn.)
 */
function told(
  { frames, width, height, cameraMotion, cut }: Observations,
  { cameraPath }: Truth,
): { turn: number; growth: number; off: number | null } {
  const focal = cameraMotionFocal(width, height);
  let map = mat3.create();
  let [turn, growth, sum] = [0, 0, 0];
  const ahead = cameraPath?.[0].slice(9).map((value) => -value);
  for (let frame = 1; frame < frames; frame++) {
    const step = Array.from(
      cameraMotion.subarray(frame * CAMERA_MOTION_WIDTH, (frame + 1) * CAMERA_MOTION_WIDTH),
    ) as unknown as CameraMotion;
    if (!step.some(Number.isNaN)) map = mat3.multiply(mat3.create(), cameraMotionMap(step, focal), map);
    const [right, down, round, grown] = cameraMotionOf(map, focal);
    turn = Math.max(turn, Math.hypot(right / focal, down / focal, round));
    growth = Math.max(growth, Math.abs(grown));
    if (!cameraPath || !ahead) continue;
    // Where what lay straight ahead in the first frame is seen now.
    const [x, y, z] = [3, 6, 9].map((row) =>
      [0, 1, 2].reduce((along, k) => along + cameraPath[frame][row + k] * ahead[k], 0),
    );
    sum += Math.hypot(right / focal - x / -z, down / focal + y / -z);
  }
  return { turn, growth, off: cameraPath && foundCuts({ cut }).length === 0 ? sum / frames : null };
}
