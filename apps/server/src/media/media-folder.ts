import { createHash } from 'node:crypto';
import { join } from 'node:path';

/**
 * Where the files of a clip lie. Names are made from the content hash alone; what a person called
 * the file never becomes part of a path. What was made of the original is put in place as one folder,
 * and counts only with its row in the database (`prepared`).
 */
export interface ClipFiles extends PreparedFiles {
  folder: string;
  original: string;
}

/** What is made of an original. */
export interface PreparedFiles {
  prepared: string;
  proxy: string;
  small: string;
  poster: string;
  filmstrip: string;
  /** Loudness of its sound: the loudest of each hundredth of a second, a byte each; not there for a clip without sound. */
  wave: string;
}

export function clipFiles(data: string, hash: string): ClipFiles {
  if (!/^[0-9a-f]{64}$/.test(hash)) throw new Error('A content hash has 64 hexadecimal digits.');
  const folder = join(mediaFolder(data), hash.slice(0, 2), hash);
  return { folder, original: join(folder, 'original'), ...preparedFiles(join(folder, 'prepared')) };
}

/** What a content is called that is prepared with another rate than its own: the same file, prepared apart. */
export const contentAs = (hash: string, how: number | string): string =>
  createHash('sha256').update(`${hash} at ${how}`).digest('hex');

export const preparedFiles = (prepared: string): PreparedFiles => ({
  prepared,
  proxy: join(prepared, 'proxy.mp4'),
  small: join(prepared, 'small.gray16'),
  poster: join(prepared, 'poster.jpg'),
  filmstrip: join(prepared, 'filmstrip.jpg'),
  wave: join(prepared, 'wave.u8'),
});

export const mediaFolder = (data: string): string => join(data, 'media');
/** Files that are on their way in. */
export const incomingFolder = (data: string): string => join(data, 'incoming');

/** Folders of tries to prepare begin so; those that nobody works on are cleaned up at the start. */
export const TRY = 'try-';

/** Pictures side by side in a filmstrip. */
export const FILMSTRIP_PICTURES = 24;
