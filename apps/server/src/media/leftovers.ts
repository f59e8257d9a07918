import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Connection } from '../database/connect';
import type { LockKind, Locks } from '../database/locks';
import { clipFiles, incomingFolder, mediaFolder, TRY } from './media-folder';

/**
 * Takes away what killed processes left in the data folder: uploads that broke off, tries to prepare, and
 * contents that no clip has. What somebody alive works on is locked and stays.
 * @returns how many.
 */
export async function cleanLeftovers({ pool }: Connection, locks: Locks, data: string): Promise<number> {
  let cleaned = 0;
  const remove = async (path: string): Promise<void> => {
    await rm(path, { recursive: true, force: true });
    cleaned++;
  };
  const alone = async (kind: LockKind, id: string, work: () => Promise<void>): Promise<void> => {
    const lock = await locks.take(kind, id);
    if (!lock) return;
    await work().finally(() => lock.release());
  };
  for (const name of await list(incomingFolder(data)))
    await alone('incoming', name, () => remove(join(incomingFolder(data), name)));
  for (const start of await list(mediaFolder(data)))
    for (const hash of await list(join(mediaFolder(data), start))) {
      if (!/^[0-9a-f]{64}$/.test(hash)) continue;
      const { folder } = clipFiles(data, hash);
      const tries = (await list(folder)).filter((name) => name.startsWith(TRY));
      if (tries.length > 0)
        await alone('prepare', hash, async () => {
          for (const name of tries) await remove(join(folder, name));
        });
      await alone('files', hash, async () => {
        const { rowCount } = await pool.query('select 1 from clips where hash = $1 limit 1', [hash]);
        if (!rowCount) await remove(folder);
      });
    }
  return cleaned;
}

const list = (folder: string): Promise<string[]> => readdir(folder).catch(() => []);
