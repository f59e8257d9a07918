import { solveFace } from '@merry-shadow/core/face/solve-face';
import { measureFaceCurves } from '@merry-shadow/core/measure/measure-face';
import { measureHands } from '@merry-shadow/core/measure/measure-hands';
import { FINGERS } from '@merry-shadow/core/motion/humanoid';
import { partIsSeen } from '@merry-shadow/core/observe/unseen';
import { solveTake } from '@merry-shadow/core/solve/solve-take';
import { closerClips } from '../closer-clips';
import { fieldOfViewOf } from '../measured-clips';
import { tableLine } from '../table';

const degrees = (angle: number): string => ((angle * 180) / Math.PI).toFixed(0);

/** How well fingers and palms are solved: made-up hands that show all shapes, near by, at a middle distance and from afar. */
export async function measureHandClips({
  clips,
  seed,
  fine,
}: {
  clips: number;
  seed: number;
  fine?: boolean;
}): Promise<void> {
  process.stdout.write(
    tableLine([
      'clip',
      'hands seen',
      `bend goes with the truth (${FINGERS.join(', ').toLowerCase()})`,
      'off, degrees',
      'palm off, degrees (median)',
      'flipped',
      'shake',
      'shapes told',
    ]),
  );
  for await (const { name, tracked, truths } of closerClips('hands', [seed], clips, { fine })) {
    const [[observations], [truth]] = [tracked, truths];
    const { hands } = observations;
    if (!hands) continue;
    const solved = solveTake(observations, { height: truth.height, fieldOfView: fieldOfViewOf(truth) });
    const figures = measureHands(solved.motion, truth, (side, frame) => partIsSeen(hands[side], frame), solved.camera);
    process.stdout.write(
      tableLine([
        name,
        (figures.frames / truth.frames / 2).toFixed(2),
        figures.correlation.map((value) => value.toFixed(2)).join(' '),
        figures.error.map(degrees).join(' '),
        degrees(figures.palm),
        figures.flipped.toFixed(2),
        figures.jerk.toFixed(2),
        figures.shapes.toFixed(2),
      ]),
    );
  }
}

/** How well faces are told: made-up faces near the camera that make all shapes, look about, blink and turn, and such before a camera that is held on the head. */
export async function measureFaceClips(choice: { clips: number; seed: number }): Promise<void> {
  await measureFaces('face', choice);
  process.stdout.write('\nthe camera held on the head\n');
  await measureFaces('held face', choice);
}

async function measureFaces(
  part: 'face' | 'held face',
  { clips, seed }: { clips: number; seed: number },
): Promise<void> {
  const all = new Map<string, number[]>();
  const blinks = { true: 0, found: 0, false: 0 };
  for await (const { tracked, truths } of closerClips(part, [seed], clips)) {
    const { face, rate } = tracked[0];
    if (!face) continue;
    const figures = measureFaceCurves(solveFace(face, rate), truths[0]);
    for (const [name, value] of figures.correlation) all.set(name, [...(all.get(name) ?? []), value]);
    for (const key of ['true', 'found', 'false'] as const) blinks[key] += figures.blinks[key];
  }
  process.stdout.write(tableLine(['curve', 'goes with the truth (mean)', 'least', 'clips']));
  for (const [name, values] of all)
    process.stdout.write(
      tableLine([
        name,
        (values.reduce((sum, value) => sum + value, 0) / values.length).toFixed(2),
        Math.min(...values).toFixed(2),
        String(values.length),
      ]),
    );
  process.stdout.write(`blinks: ${blinks.true} made, ${blinks.found} found, ${blinks.false} false\n`);
}
