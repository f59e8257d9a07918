import { createHash } from 'node:crypto';
import { mkdir, readdir, readFile, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { runCommand } from './processes';

/** Builds the interface when its sources have changed since the last build. */
export async function buildWeb(root: string): Promise<void> {
  const hash = createHash('sha256');
  for (const folder of ['apps/web', 'packages/core/src', 'packages/contracts/src', 'packages/tracker/src'])
    await addFolder(join(root, folder), hash);
  hash.update(await readFile(join(root, 'package-lock.json')));
  const wanted = hash.digest('hex');
  // Beside the files that are served, not among them.
  const stamp = join(root, '.data/interface-built');
  const built = await stat(join(root, 'apps/web/dist/index.html')).catch(() => null);
  if (built && (await readFile(stamp, 'utf8').catch(() => '')) === wanted) return;
  process.stderr.write('Building the interface\n');
  const code = await runCommand(process.execPath, [
    join(root, 'node_modules/vite/bin/vite.js'),
    'build',
    '--config',
    join(root, 'apps/web/vite.config.ts'),
    '--logLevel',
    'warn',
  ]);
  if (code !== 0) throw new Error('The interface could not be built.');
  await mkdir(join(root, '.data'), { recursive: true });
  await writeFile(stamp, wanted);
}

async function addFolder(folder: string, hash: ReturnType<typeof createHash>): Promise<void> {
  for (const entry of (await readdir(folder)).sort()) {
    if (entry === 'dist' || entry === 'node_modules') continue;
    const path = join(folder, entry);
    if ((await stat(path)).isDirectory()) await addFolder(path, hash);
    else hash.update(path).update(await readFile(path));
  }
}
