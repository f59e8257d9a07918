import { readFile, readlink, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

/** A data folder that this process uses. */
export interface FolderClaim {
  /** Writes down where the product can be opened. */
  tell: (address: string) => Promise<void>;
  release: () => Promise<void>;
}

/**
 * Claims a data folder for this process: a database can't be used by two at the same time.
 * @throws Error with a sentence when a living start command uses it.
 */
export async function claimFolder(data: string): Promise<FolderClaim> {
  const path = join(data, 'in-use.json');
  const other = await readFile(path, 'utf8')
    .then((text) => JSON.parse(text) as { pid: number; program: string; address?: string })
    .catch(() => null);
  if (other && other.pid !== process.pid && (await programOf(other.pid)) === other.program)
    throw new Error(
      `The data folder ${data} is in use by another Merry Shadow${other.address ? `, open at ${other.address}` : ''}. Close that one first, or choose another folder with --data.`,
    );
  const write = async (address?: string): Promise<void> =>
    writeFile(path, JSON.stringify({ pid: process.pid, program: await programOf(process.pid), address }));
  await write();
  return { tell: write, release: () => rm(path, { force: true }) };
}

/** What a process runs, or an empty text when there is none: numbers of processes are used again. */
async function programOf(pid: number): Promise<string> {
  const program = await readlink(`/proc/${pid}/exe`).catch(() => '');
  if (program) return program;
  try {
    process.kill(pid, 0);
    return 'unknown';
  } catch {
    return '';
  }
}
