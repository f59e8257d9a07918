import { mat3 } from 'gl-matrix';
import { join } from 'node:path';
import { swayFocal, swayMap, swayOf, SWAY_WIDTH, type Sway } from '@merry-shadow/core/camera/sway';
import { nearestPeople } from '@merry-shadow/core/measure/measure-marks';
import { measureMotion, type MotionFigures } from '@merry-shadow/core/measure/measure-motion';
import type { Truth } from '@merry-shadow/core/measure/truth';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { finishedMotion } from '@merry-shadow/core/passes/take-edits';
import { foundCuts } from '@merry-shadow/core/solve/shots';
import { solveTake, type SolveOptions } from '@merry-shadow/core/solve/solve-take';
import { measuredClips } from '../measured-clips';
import { DATA, ROOT } from '../paths';

const DEGREES = 180 / Math.PI;

/**
 * Prints for each clip of a folder what was told of the camera, and the figures of the solve; for each shot of a clip
 * with cuts its own figures, too.
 */
export async function measureCameras(folder: 'stillness' | 'shots'): Promise<void> {
  process.stdout.write(
    '| clip | camera told | growth told | untold | cuts | PA-MPJPE mm (raw) | whole clip mm (raw) | left in mm | slide mm/frame |\n|---|---|---|---|---|---|---|---|---|\n',
  );
  for await (const { name, tracked, truths } of measuredClips(join(ROOT, 'demo', folder), join(DATA, folder)))
    for (const observations of tracked) {
      // Performers are tracked in the order in which they stand out, not in the script's.
      const counts = nearestPeople(observations, truths);
      const truth = truths[counts.indexOf(Math.max(...counts))];
      const title = truths.length > 1 ? `${name}, ${truth.performer}` : name;
      process.stdout.write(row(title, observations, truth));
      for (const [k, line] of shotRows(observations, truth).entries())
        process.stdout.write(`| … shot ${k + 1} alone | ${line}`);
    }
}

function row(name: string, observations: Observations, truth: Truth): string {
  const { turn, growth } = told(observations);
  const { solved, raw, figures } = measure(observations, truth);
  const leftIn = measure(observations, truth, { steady: false }).figures;
  const cells = [
    name,
    `${(turn * DEGREES).toFixed(2)}°`,
    `${(growth * 100).toFixed(1)} %`,
    `${(solved.untold * 100).toFixed(0)} %`,
    foundCuts(observations).join(' ') || '–',
    `${figures.paMpjpeMm.toFixed(1)} (${raw.paMpjpeMm.toFixed(1)})`,
    `${figures.wholeClipMpjpeMm.toFixed(1)} (${raw.wholeClipMpjpeMm.toFixed(1)})`,
    leftIn.wholeClipMpjpeMm.toFixed(1),
    figures.footSlideMmPerFrame.toFixed(2),
  ];
  return `| ${cells.join(' | ')} |\n`;
}

function measure(
  observations: Observations,
  truth: Truth,
  options: SolveOptions = {},
): { solved: ReturnType<typeof solveTake>; raw: MotionFigures; figures: MotionFigures } {
  const { width, height, focal } = truth.camera;
  const fieldOfView = 2 * Math.atan(Math.max(width, height) / 2 / focal) * DEGREES;
  const given = { height: truth.height, fieldOfView, ...options };
  const solved = solveTake(observations, given);
  const raw = solveTake(observations, { ...given, fit: false, smooth: false });
  return {
    solved,
    raw: measureMotion(raw.motion, truth),
    figures: measureMotion(finishedMotion(solved), truth),
  };
}

/** The figures of each shot within the joined take. */
function shotRows(observations: Observations, truth: Truth): string[] {
  const { solved } = measure(observations, truth);
  if (solved.shots.length < 2) return [];
  const motion = finishedMotion(solved);
  return solved.shots.map(({ from, until }) => {
    const cut = <T>(list: readonly T[]): T[] => list.slice(from, until);
    const part = {
      ...motion,
      frames: until - from,
      root: motion.root.slice(from * 3, until * 3),
      rotations: Float32Array.from(
        motion.skeleton.joints.flatMap((_, joint) => {
          const at = joint * motion.frames;
          return [...motion.rotations.subarray((at + from) * 4, (at + until) * 4)];
        }),
      ),
    };
    const own: Truth = {
      ...truth,
      positions: cut(truth.positions),
      rotations: cut(truth.rotations),
      contacts: Object.fromEntries(
        Object.entries(truth.contacts).map(([name, list]) => [name, cut(list)]),
      ) as Truth['contacts'],
    };
    const { paMpjpeMm, wholeClipMpjpeMm, footSlideMmPerFrame } = measureMotion(part, own);
    const cells = ['', '', '', `${from}–${until - 1}`, paMpjpeMm.toFixed(1), wholeClipMpjpeMm.toFixed(1), ''];
    return `${[...cells, footSlideMmPerFrame.toFixed(2)].join(' | ')} |\n`;
  });
}

/** The farthest that the picture is said to have turned from the first frame, radians, and to have grown. */
function told({ frames, width, height, sway }: Observations): { turn: number; growth: number } {
  const focal = swayFocal(width, height);
  let map = mat3.create();
  let [turn, growth] = [0, 0];
  for (let frame = 1; frame < frames; frame++) {
    const step = Array.from(sway.subarray(frame * SWAY_WIDTH, (frame + 1) * SWAY_WIDTH)) as unknown as Sway;
    if (step.some(Number.isNaN)) continue;
    map = mat3.multiply(mat3.create(), swayMap(step, focal), map);
    const [right, down, round, grown] = swayOf(map, focal);
    turn = Math.max(turn, Math.hypot(right / focal, down / focal, round));
    growth = Math.max(growth, Math.abs(grown));
  }
  return { turn, growth };
}
