import { join } from 'node:path';
import { pitchOf, type PinholeCamera } from '@merry-shadow/core/camera/pinhole';
import { nearestPeople } from '@merry-shadow/core/measure/measure-marks';
import { measureMotion } from '@merry-shadow/core/measure/measure-motion';
import type { Truth } from '@merry-shadow/core/measure/truth';
import { worldPositions, type Motion } from '@merry-shadow/core/motion/motion';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { finishedMotion } from '@merry-shadow/core/edits/evaluate/take-evaluator';
import { solveTake, type SolvedTake } from '@merry-shadow/core/solve/solve-take';
import { contactF1 } from '../contact-f1';
import { fieldOfViewOf, measuredClips, scriptsIn } from '../measured-clips';
import { DATA, ROOT } from '../paths';
import { tableLine } from '../table';

const DEGREES = 180 / Math.PI;
const COLUMNS = [
  'clip',
  'given',
  'pitch ° (truth)',
  'camera high m (truth)',
  'PA-MPJPE mm',
  'whole clip mm',
  'sink + hover mm',
  'lowest sole mm',
  'slide mm/frame',
  'contact F1',
];

/** What was solved of each performer of a clip. */
interface Solved {
  truth: Truth;
  solved: SolvedTake;
  motion: Motion;
}

/**
 * Prints how floor and camera are told, with height and lens given and with nothing; for clips with several performers also how far apart
 * they stand in the one world, how tall they are told, and how near their right hands come.
 */
export async function measureFloors(): Promise<void> {
  process.stdout.write(tableLine(COLUMNS) + tableLine(COLUMNS.map(() => '---')));
  const shared: string[] = [];
  for await (const { name, tracked, truths } of measuredClips(
    await scriptsIn(join(ROOT, 'demo/floors')),
    join(DATA, 'floors'),
  )) {
    const own = tracked.map((observations) => {
      const counts = nearestPeople(observations, truths);
      return truths[counts.indexOf(Math.max(...counts))];
    });
    const heights = own.map((truth) => truth.height);
    const unknown = own.map(() => undefined);
    const fieldOfView = fieldOfViewOf(truths[0]);
    for (const [given, known, lens] of [
      ['all', heights, fieldOfView],
      ['nothing', unknown, undefined],
    ] as const) {
      const people = solveAll(tracked, own, known, lens);
      people.forEach((person) => process.stdout.write(tableLine(floorCells(name, given, person, truths.length > 1))));
      if (people.length < 2) continue;
      shared.push(sharedLine(name, given, people));
      if (given === 'all') shared.push(sharedLine(name, 'one height', solveAll(tracked, own, [heights[0]], lens)));
    }
  }
  process.stdout.write(`\n${shared.join('')}`);
}

function solveAll(
  tracked: readonly Observations[],
  truths: readonly Truth[],
  heights: readonly (number | undefined)[],
  fieldOfView: number | undefined,
): Solved[] {
  return tracked.map((observations, i) => {
    const others = tracked.flatMap((footage, k) => (k === i ? [] : [{ footage, height: heights[k] }]));
    const solved = solveTake(observations, { height: heights[i], fieldOfView, others });
    return { truth: truths[i], solved, motion: finishedMotion(solved) };
  });
}

function floorCells(name: string, given: string, { truth, solved, motion }: Solved, several: boolean): string[] {
  const figures = measureMotion(motion, truth);
  const pitch = (camera: Pick<PinholeCamera, 'axes'>): string => (pitchOf(camera) * DEGREES).toFixed(1);
  return [
    several ? `${name}, ${truth.performer}` : name,
    given,
    `${pitch(solved.camera)} (${pitch(truth.camera)})`,
    `${solved.camera.position[1].toFixed(2)} (${truth.camera.position[1].toFixed(2)})`,
    figures.paMpjpeMm.toFixed(1),
    figures.wholeClipMpjpeMm.toFixed(1),
    (figures.sinkingMm + figures.hoveringMm).toFixed(1),
    figures.lowestSoleMm.toFixed(0),
    figures.footSlideMmPerFrame.toFixed(2),
    contactF1(solved, truth).toFixed(2),
  ];
}

/** How far two performers are apart against the truth, how tall they are told, and how near their right wrists come. */
function sharedLine(name: string, given: string, people: readonly Solved[]): string {
  const [a, b] = people;
  let [off, nearest, trulyNearest] = [0, Infinity, Infinity];
  const places = people.map(({ motion }) => worldPositions(motion));
  for (let frame = 0; frame < a.truth.frames; frame++) {
    const at = (i: number, joint: string): number[] => {
      const { skeleton } = people[i].motion;
      const start = (frame * skeleton.joints.length + jointIndex(skeleton, joint)) * 3;
      return Array.from(places[i].subarray(start, start + 3));
    };
    const truly = ({ truth }: Solved, joint: string): number[] => {
      const start = truth.joints.indexOf(joint) * 3;
      return truth.positions[frame].slice(start, start + 3);
    };
    off += Math.abs(apart(at(0, 'hips'), at(1, 'hips')) - apart(truly(a, 'hips'), truly(b, 'hips'))) / a.truth.frames;
    nearest = Math.min(nearest, apart(at(0, 'rightHand'), at(1, 'rightHand')));
    trulyNearest = Math.min(trulyNearest, apart(truly(a, 'rightHand'), truly(b, 'rightHand')));
  }
  const tall = people.map(({ solved, truth }) => `${solved.body.proportions.height.toFixed(2)} (${truth.height})`);
  return `${name}, ${given} given: apart to ${(off * 100).toFixed(0)} cm; heights ${tall.join(' and ')} m; right wrists ${(nearest * 100).toFixed(0)} cm from each other at the nearest (${(trulyNearest * 100).toFixed(0)})\n`;
}

const apart = (a: readonly number[], b: readonly number[]): number => Math.hypot(...a.map((value, k) => value - b[k]));
