import { createReadStream, createWriteStream } from 'node:fs';
import { rm, stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { safeInput } from './media-safety';
import { DEPTH_RIG_TAG, FootageError, ONE_LENS, probeClip } from './probe';
import { probeDepth } from './read-depth';
import { runMediaTool } from './run-media-tool';

/**
 * Makes one recording of a clip and the depth that was taken through its lens, which stand one behind the other in a file (docs/formats.md). Nothing is encoded anew.
 * @param at where the depth begins, bytes.
 * @throws FootageError when one of them can't be read, or the depth does not show what the clip shows.
 */
export async function joinDepth(both: string, at: number, into: string): Promise<void> {
  const { size } = await stat(both);
  if (at <= 0 || at >= size) throw new FootageError('A clip and its depth were announced, but one of them is missing.');
  const [colour, depth] = [`${into}.colour`, `${into}.depth`];
  try {
    await pipeline(createReadStream(both, { end: at - 1 }), createWriteStream(colour));
    await pipeline(createReadStream(both, { start: at }), createWriteStream(depth));
    await probeDepth(depth, await probeClip(colour));
    const result = await runMediaTool(
      'ffmpeg',
      [
        ...['-hide_banner', '-loglevel', 'error', '-y', ...safeInput(colour), ...safeInput(depth)],
        ...['-map', '0:v:0', '-map', '1:v:0', '-map', '0:a:0?', '-c', 'copy', '-fflags', '+bitexact'],
        ...['-metadata', `${DEPTH_RIG_TAG}=${ONE_LENS}`, '-f', 'matroska', into],
      ],
      { seconds: 600 },
    );
    if (result.code !== 0)
      throw new FootageError('The clip and its depth could not be joined. One of them may be damaged.');
  } finally {
    await Promise.all([colour, depth].map((path) => rm(path, { force: true })));
  }
}
