import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { clipFiles } from './media-folder';

/**
 * Writes an incoming file into the media folder under its content hash. The file is whole before it
 * gets its name; a broken upload leaves nothing.
 * @returns the hash.
 */
export async function receiveFile(source: Readable, data: string): Promise<string> {
  const folder = join(data, 'incoming');
  await mkdir(folder, { recursive: true });
  const partial = join(folder, randomUUID());
  const hash = createHash('sha256');
  const tap = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      hash.update(chunk);
      done(null, chunk);
    },
  });
  try {
    await pipeline(source, tap, createWriteStream(partial));
    const digest = hash.digest('hex');
    const files = clipFiles(data, digest);
    await mkdir(files.folder, { recursive: true });
    await rename(partial, files.original);
    return digest;
  } catch (error) {
    await rm(partial, { force: true });
    throw error;
  }
}

export async function exists(path: string): Promise<boolean> {
  return stat(path).then(
    () => true,
    () => false,
  );
}
