import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { FACE_OUTPUTS } from '@merry-shadow/core/face/face-map';
import { HAND_ANGLES } from '@merry-shadow/core/hands/finger-turns';
import { runSmallNet, type SmallNet } from '@merry-shadow/core/learned/small-net';
import { correlation } from '@merry-shadow/core/measure/correlation';
import type { Truth } from '@merry-shadow/core/measure/truth';
import type { Observations } from '@merry-shadow/core/observe/observations';
import type { HandCrop } from '@merry-shadow/tracker/hands/hand-crop';
import { closerClips, type CloserClips, type CloserPart } from '../closer-clips';
import { ROOT } from '../paths';
import { faceExamples } from '../train/face-examples';
import { handExamples } from '../train/hand-examples';
import { netText } from '../train/net-text';
import { TAUGHT_CROPS } from '../train/taught-crops';
import { trainSmallNet, type NetExample, type NetTraining } from '../train/train-small-net';

interface Learned {
  /** What is learned from: clips of some populations, so many of each. */
  clips: CloserClips;
  seeds: readonly number[];
  count: number;
  /** Ways to cut out hands that are learned from, too. */
  handCrops: readonly HandCrop[];
  /** What is told of a clip, and, if wanted, of its mirror image. */
  examplesOf: (tracked: Observations, truth: Truth, mirrored: boolean) => NetExample[];
  training: NetTraining;
  outputs: number;
  file: string;
  name: string;
  what: string;
}

const LEARNED: Record<CloserPart, Learned> = {
  hands: {
    clips: 'sparse hands',
    seeds: [41],
    count: 160,
    handCrops: TAUGHT_CROPS,
    examplesOf: handExamples,
    training: { hidden: 48, rounds: 10, noise: 0.15, decay: 1e-3, most: 0.6, nets: 2 },
    outputs: HAND_ANGLES,
    file: 'packages/core/src/hands/learned-fingers.ts',
    name: 'LEARNED_FINGERS',
    what: "Finger angles from the hand network's points, see `finger-map.ts`.",
  },
  face: {
    clips: 'sparse face',
    seeds: [31],
    count: 64,
    handCrops: [],
    examplesOf: faceExamples,
    training: { hidden: 24, rounds: 60, noise: 0.2, decay: 3e-4, most: 0.6, nets: 4 },
    outputs: FACE_OUTPUTS,
    file: 'packages/core/src/face/learned-face.ts',
    name: 'LEARNED_FACE',
    what: 'Shapes of a face from its measures, see `face-map.ts`.',
  },
};

interface Examples {
  /** The builder of the body. */
  family: number;
  examples: NetExample[];
  /** What is told of the clip itself, without mirror images and other crops. */
  own: NetExample[];
}

/** Learns what the networks of hands or faces get wrong from made-up ones, and prints how the outputs go with the truth for builders that were left out. */
export async function trainCloser(part: CloserPart, leaveOut: boolean): Promise<void> {
  const { training, outputs, file, name, what, handCrops, examplesOf, ...from } = LEARNED[part];
  const clips: Examples[] = [];
  const made = closerClips(from.clips, from.seeds, from.count, { handCrops });
  for await (const { name: clip, tracked, truths, cropped } of made) {
    const family = Number(clip.slice(clip.lastIndexOf('-') + 1)) % 4;
    const [truth] = truths;
    clips.push({
      family,
      own: examplesOf(tracked[0], truth, false),
      examples: [tracked, ...cropped].flatMap(([seen]) => examplesOf(seen, truth, true)),
    });
  }
  process.stdout.write(`${clips.reduce((sum, { own }) => sum + own.length, 0)} frames of ${clips.length} clips\n`);
  if (leaveOut)
    for (const family of [...new Set(clips.map((clip) => clip.family))]) {
      const net = trainSmallNet(
        clips.filter((clip) => clip.family !== family).flatMap(({ examples }) => examples),
        training,
      );
      const left = clips.filter((clip) => clip.family === family).flatMap(({ own }) => own);
      process.stdout.write(
        `builder ${family + 1} left out: ${goingWith(net, left, outputs)} with the truth, mean of ${outputs} outputs\n`,
      );
    }
  const net = trainSmallNet(
    clips.flatMap(({ examples }) => examples),
    training,
  );
  await writeFile(join(ROOT, file), netText(net, name, what, `./run train --${part}`));
}

/** Mean correlation of a network's outputs with what they should be. */
function goingWith(net: SmallNet, examples: readonly NetExample[], outputs: number): string {
  const told = examples.map(({ inputs }) => runSmallNet(net, inputs, new Float64Array(outputs)));
  const each = Array.from({ length: outputs }, (_, o) => {
    const known = examples.flatMap((example, i) => (Number.isFinite(example.outputs[o]) ? [i] : []));
    return correlation(
      known.map((i) => told[i][o]),
      known.map((i) => examples[i].outputs[o]),
    );
  }).filter(Number.isFinite);
  return (each.reduce((sum, value) => sum + value, 0) / each.length).toFixed(2);
}
