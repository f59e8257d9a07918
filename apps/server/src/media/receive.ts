import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { clipFiles } from './media-folder';
import { asNoRoom, needRoom } from './room';

/** A file that came in whole and has no place yet. */
export interface Received {
  path: string;
  hash: string;
}

/** Room is looked for again after so many bytes. */
const LOOK_BYTES = 32e6;

/**
 * Writes an incoming file into a folder and tells its content hash. A broken upload leaves nothing.
 * @param room bytes that stay free on the disk.
 * @throws NoRoomError when the disk is full.
 */
export async function receiveFile(source: Readable, folder: string, room: number): Promise<Received> {
  await mkdir(folder, { recursive: true });
  const path = join(folder, randomUUID());
  const hash = createHash('sha256');
  let unchecked = 0;
  const tap = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      hash.update(chunk);
      unchecked += chunk.length;
      if (unchecked < LOOK_BYTES) return done(null, chunk);
      unchecked = 0;
      needRoom(folder, room).then(
        () => done(null, chunk),
        (error: Error) => done(error),
      );
    },
  });
  try {
    await pipeline(source, tap, createWriteStream(path));
    return { path, hash: hash.digest('hex') };
  } catch (error) {
    await rm(path, { force: true });
    throw asNoRoom(error, folder, room) ?? error;
  }
}

/** Gives a received file its place under its content hash; who calls holds the content's lock on files. */
export async function placeOriginal({ path, hash }: Received, data: string): Promise<void> {
  const { folder, original } = clipFiles(data, hash);
  await mkdir(folder, { recursive: true });
  const known = await stat(original).catch(() => null);
  // The same content again: what is there may be being read.
  if (known && known.size === (await stat(path)).size) await rm(path, { force: true });
  else await rename(path, original);
}
