import { mkdir, statfs } from 'node:fs/promises';
import { causes } from '../shell/errors-in-words';

const megabytes = (bytes: number): string => `${Math.max(1, Math.ceil(bytes / 1e6))} MB`;

/** The disk is full. The message is a sentence that says where, what is needed and what to do. */
export class NoRoomError extends Error {
  override name = 'NoRoomError';

  constructor(
    folder: string,
    /** Bytes. */
    readonly needed: number,
    free?: number,
  ) {
    const have = free === undefined ? '' : `, ${free < 1e6 ? 'nothing' : megabytes(free)} is free`;
    super(
      `The disk that holds ${folder} is full: about ${megabytes(needed)} must be free there${have}. Make room and it goes on.`,
    );
  }
}

/** Bytes that are free for us on the disk that holds a folder. */
export async function freeBytes(folder: string): Promise<number> {
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize;
}

/**
 * Looks for room before something is written.
 * @param bytes what will be written, together with what stays free.
 * @throws NoRoomError when there is less.
 */
export async function needRoom(folder: string, bytes: number): Promise<void> {
  await mkdir(folder, { recursive: true });
  const free = await freeBytes(folder);
  if (free < bytes) throw new NoRoomError(folder, bytes, free);
}

/** PostgreSQL's code for a full disk, the system's for one and for a used-up quota. */
const FULL = new Set(['53100', 'ENOSPC', 'EDQUOT']);

/**
 * What an error says of a full disk: its own sentence, or one made for where it was written.
 * @returns null when it is something else.
 */
export function asNoRoom(error: unknown, folder: string, room: number): NoRoomError | null {
  if (error instanceof NoRoomError) return error;
  return [...causes(error)].some(({ code }) => FULL.has(code ?? '')) ? new NoRoomError(folder, room) : null;
}
