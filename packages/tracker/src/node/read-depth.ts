import type { DepthRig } from '@merry-shadow/core/camera/depth-rig';
import { MARK_COUNT } from '@merry-shadow/core/observe/body';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { registerDepth } from '../depth/register-depth';
import { DepthCourse } from '../depth/sample-depth';
import { readDepthMaps, type FrameSource } from './frames';
import { safeInput } from './media-safety';
import { FootageError, probeClip } from './probe';
import { runMediaTool } from './run-media-tool';

/** How much the shapes of picture and depth may differ. */
const SHAPE = 0.02;

/** A depth camera's video that can be read. */
export type DepthVideo = Pick<FrameSource, 'path' | 'stream' | 'width' | 'height'> & {
  /** When each map was taken, seconds from the clip's first picture on, rising. */
  times: number[];
  /** When the clip's first picture is, seconds of the file. */
  begin: number;
  /** How the depth camera lies to the colour camera; null where both look through one lens. */
  rig: DepthRig | null;
};

/** Before a map it is sought by so many seconds: more than what containers round times by. */
const SEEK_EARLY = 0.002;

/**
 * Looks into the video of a depth camera: grey levels of 16 bits, which are millimetres along the camera's axis (0:
 * nothing told), of the picture's shape in any size, frame by frame with the clip.
 * @param picture size of the clip's picture.
 * @throws FootageError when the video is no such one.
 */
export async function probeDepth(path: string, picture: Pick<FrameSource, 'width' | 'height'>): Promise<DepthVideo> {
  const { width, height, stream, pixels } = await probeClip(path);
  if (!/^gray16/.test(pixels))
    throw new FootageError(`Depth must be a video of grey levels of 16 bits (gray16le), but this is ${pixels}.`);
  if (Math.abs((width / height) * (picture.height / picture.width) - 1) > SHAPE)
    throw new FootageError(
      `The depth camera saw ${width} × ${height}, which is another shape than the picture's ${picture.width} × ${picture.height}.`,
    );
  return { path, stream, width, height, rig: null, ...(await mapTimes(path, stream, stream)) };
}

/** The depth that a recording of a depth device holds beside its colour picture; null where it holds none. */
export async function depthWithin(path: string): Promise<DepthVideo | null> {
  const { depth, stream } = await probeClip(path);
  return depth && { path, ...depth, ...(await mapTimes(path, depth.stream, stream)) };
}

/** When the maps of a file were taken. @param stream of the maps. @param colour the stream whose first picture is the clip's first. */
async function mapTimes(path: string, stream: number, colour: number): Promise<Pick<DepthVideo, 'times' | 'begin'>> {
  const packets = async (index: number, args: string[]): Promise<number[]> => {
    const times: number[] = [];
    const show = ['-show_entries', 'format=start_time:packet=pts_time', '-of', 'csv=p=0'];
    await runMediaTool(
      'ffprobe',
      ['-v', 'error', '-select_streams', String(index), ...args, ...show, ...safeInput(path)],
      { seconds: 300, onLine: (line) => times.push(Number.parseFloat(line)) },
    );
    return times.filter(Number.isFinite);
  };
  // The last line is the file's own beginning, which seeking counts from.
  const maps = await packets(stream, []);
  const start = maps.pop() ?? 0;
  const [first = start] = await packets(colour, ['-read_intervals', '%+#1']);
  return { begin: first - start, times: maps.map((time) => time - first).sort((a, b) => a - b) };
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
  const [from, until] = [first / rate, (first + performers[0].frames) / rate];
  // One before and one after, so that the first and the last frame lie between two.
  const begin = Math.max(
    0,
    video.times.findLastIndex((time) => time <= from),
  );
  const after = video.times.findIndex((time) => time >= until);
  const times = video.times.slice(begin, after < 0 ? undefined : after + 1);
  if (times.length === 0) return out;
  const courses = out.map((observations) => new DepthCourse(observations, rate));
  let n = 0;
  for await (const map of readDepthMaps(video, video.begin + times[0] - SEEK_EARLY, times.length)) {
    const shown = video.rig ? registerDepth(map, video.rig) : map;
    for (const course of courses) course.add(shown, times[n] - from);
    n++;
  }
  return out;
}
