import { join } from 'node:path';

/**
 * Where the files of a clip lie. Names are made from the content hash alone; what a person called
 * the file never becomes part of a path.
 */
export interface ClipFiles {
  folder: string;
  original: string;
  proxy: string;
  poster: string;
  filmstrip: string;
}

export function clipFiles(data: string, hash: string): ClipFiles {
  if (!/^[0-9a-f]{64}$/.test(hash)) throw new Error('A content hash has 64 hexadecimal digits.');
  const folder = join(data, 'media', hash.slice(0, 2), hash);
  return {
    folder,
    original: join(folder, 'original'),
    proxy: join(folder, 'proxy.mp4'),
    poster: join(folder, 'poster.jpg'),
    filmstrip: join(folder, 'filmstrip.jpg'),
  };
}

/** Pictures side by side in a filmstrip. */
export const FILMSTRIP_PICTURES = 12;
