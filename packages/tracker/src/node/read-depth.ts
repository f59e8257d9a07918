import type { DepthRig } from '@merry-shadow/core/camera/depth-rig';
import { MARK_COUNT } from '@merry-shadow/core/observe/body';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { registerDepth } from '../depth/register-depth';
import { sampleDepth } from '../depth/sample-depth';
import { readDepthMaps, type FrameSource } from './frames';
import { FootageError, probeClip } from './probe';

/** How much the shapes of picture and depth may differ. */
const SHAPE = 0.02;

/** A depth camera's video that can be read. */
export type DepthVideo = Pick<FrameSource, 'path' | 'stream' | 'width' | 'height' | 'even'> & {
  /** How the depth camera lies to the colour camera; left out where both look through one lens. */
  rig?: DepthRig;
};

/**
 * Looks into the video of a depth camera: grey levels of 16 bits, which are millimetres along the camera's axis (0:
 * nothing told), of the picture's shape in any size, frame by frame with the clip.
 * @param picture size of the clip's picture.
 * @throws FootageError when the video is no such one.
 */
export async function probeDepth(path: string, picture: Pick<FrameSource, 'width' | 'height'>): Promise<DepthVideo> {
  const { width, height, even, pixels } = await probeClip(path);
  if (!/^gray16/.test(pixels))
    throw new FootageError(`Depth must be a video of grey levels of 16 bits (gray16le), but this is ${pixels}.`);
  if (Math.abs((width / height) * (picture.height / picture.width) - 1) > SHAPE)
    throw new FootageError(
      `The depth camera saw ${width} × ${height}, which is another shape than the picture's ${picture.width} × ${picture.height}.`,
    );
  return { path, width, height, even };
}

/** The depth that a recording of a depth device holds beside its colour picture; null where it holds none. */
export async function depthWithin(path: string): Promise<DepthVideo | null> {
  const { depth } = await probeClip(path);
  // Each picture of it stands for itself, so that any place can be sought.
  return depth && { path, even: true, ...depth };
}

/**
 * Adds what a depth camera saw to the observations of a clip.
 * @param video as `probeDepth` tells it.
 * @param clip where the take lies in the clip, and the clip's rate.
 * @returns new observations for each performer.
 * @throws FootageError when nothing of the video can be decoded.
 */
export async function withDepth(
  performers: readonly Observations[],
  video: DepthVideo,
  { rate, first = 0 }: Pick<FrameSource, 'rate' | 'first'>,
): Promise<Observations[]> {
  const out = performers.map((observations) => ({
    ...observations,
    depth: new Float32Array(observations.frames * MARK_COUNT).fill(NaN),
  }));
  let frame = 0;
  for await (const map of readDepthMaps({ ...video, rate, first, count: performers[0].frames })) {
    const shown = video.rig ? registerDepth(map, video.rig) : map;
    for (const observations of out) if (frame < observations.frames) sampleDepth(observations, frame, shown);
    frame++;
  }
  return out;
}
