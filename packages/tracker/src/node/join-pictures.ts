import { open } from 'node:fs/promises';
import { FootageError } from './probe';
import { runMediaTool } from './run-media-tool';

/** How single pictures begin, and what ffmpeg calls them. */
const KINDS: readonly (readonly [begin: readonly number[], codec: string])[] = [
  [[0x89, 0x50, 0x4e, 0x47], 'png'],
  [[0xff, 0xd8, 0xff], 'mjpeg'],
];

/**
 * Makes a video of pictures that stand one behind the other in a file. Each is kept as it is, in a Matroska file.
 * @param rate pictures a second. @throws FootageError when they are of no kind that can be read, or not all of one size.
 */
export async function joinPictures(pictures: string, rate: number, into: string): Promise<void> {
  const codec = await kindOf(pictures);
  const result = await runMediaTool(
    'ffmpeg',
    [
      ...['-hide_banner', '-loglevel', 'error', '-y', '-protocol_whitelist', 'file'],
      ...['-f', 'image2pipe', '-framerate', String(rate), '-c:v', codec, '-i', `file:${pictures}`],
      ...['-c:v', 'copy', '-fflags', '+bitexact', '-f', 'matroska', into],
    ],
    { seconds: 600 },
  );
  if (result.code !== 0) throw new FootageError('The pictures could not be joined. One of them may be damaged.');
}

async function kindOf(path: string): Promise<string> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(4), 0, 4, 0);
    const found = KINDS.find(([begin]) => bytesRead >= begin.length && begin.every((byte, i) => buffer[i] === byte));
    if (!found) throw new FootageError("The pictures are of a kind that can't be read. PNG and JPEG can.");
    return found[1];
  } finally {
    await file.close();
  }
}
