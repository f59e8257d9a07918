import { emptyObservations, observationColumns, type Observations } from '@merry-shadow/core/observe/observations';
import { sampleDepth } from '../depth/sample-depth';
import { readDepthMaps, type FrameSource } from './frames';
import { FootageError, probeClip, type ClipFacts } from './probe';

/** How much the shapes of picture and depth may differ. */
const SHAPE = 0.02;

/**
 * Looks into the video of a depth camera: grey levels of 16 bits, which are millimetres along the camera's axis (0:
 * nothing told), of the picture's shape in any size, frame by frame with the clip.
 * @param picture size of the clip's picture.
 * @throws FootageError when the video is no such one.
 */
export async function probeDepth(path: string, picture: Pick<FrameSource, 'width' | 'height'>): Promise<ClipFacts> {
  const facts = await probeClip(path);
  if (!/^gray16/.test(facts.pixels))
    throw new FootageError(`Depth must be a video of grey levels of 16 bits (gray16le), but this is ${facts.pixels}.`);
  if (Math.abs((facts.width / facts.height) * (picture.height / picture.width) - 1) > SHAPE)
    throw new FootageError(
      `The depth camera saw ${facts.width} × ${facts.height}, which is another shape than the picture's ${picture.width} × ${picture.height}.`,
    );
  return facts;
}

/**
 * Adds what a depth camera saw to the observations of a clip.
 * @param path a video as `probeDepth` wants it.
 * @param clip where the take lies in the clip, and the clip's rate.
 * @returns new observations for each performer.
 * @throws FootageError as `probeDepth`.
 */
export async function withDepth(
  performers: readonly Observations[],
  path: string,
  { rate, first = 0 }: Pick<FrameSource, 'rate' | 'first'>,
): Promise<Observations[]> {
  const [sample] = performers;
  const { width, height, even } = await probeDepth(path, sample);
  const out = performers.map(addDepthColumn);
  let frame = 0;
  for await (const map of readDepthMaps({ path, width, height, rate, even, first, count: sample.frames })) {
    for (const observations of out) if (frame < observations.frames) sampleDepth(observations, frame, map);
    frame++;
  }
  return out;
}

function addDepthColumn(observations: Observations): Observations {
  const { frames, rate, width, height, hands, face } = observations;
  const out = emptyObservations(frames, rate, width, height, { hands: !!hands, face: !!face, depth: true });
  const known = new Map(observationColumns(observations).map(({ name, data }) => [name, data]));
  for (const { name, data } of observationColumns(out)) data.set(known.get(name) ?? []);
  return out;
}
