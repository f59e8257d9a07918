import { spawn, type ChildProcess } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { claimFolder } from '../claim-folder';
import { oddFiles } from '../soak/odd-files';
import { supervise } from '../supervise';

const folder = mkdtempSync(join(tmpdir(), 'merry-start-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const sleeper = (seconds: number): ChildProcess => spawn('sleep', [String(seconds)]);

describe('a data folder', () => {
  it('in use by a living start command is refused with where that is open', async () => {
    const claim = await claimFolder(folder);
    await claim.tell('http://127.0.0.1:4860');
    const other = sleeper(30);
    const said = { pid: other.pid, program: '/usr/bin/sleep', address: 'http://127.0.0.1:4860' };
    writeFileSync(join(folder, 'in-use.json'), JSON.stringify(said));
    await expect(claimFolder(folder)).rejects.toThrow('open at http://127.0.0.1:4860');
    // Another program under the same number, or none: the start command was killed.
    writeFileSync(join(folder, 'in-use.json'), JSON.stringify({ ...said, program: '/usr/bin/node' }));
    await (await claimFolder(folder)).release();
    other.kill();
    for (const text of ['{"pid":', '{}', JSON.stringify({ ...said, pid: 2 ** 22 - 3 })]) {
      writeFileSync(join(folder, 'in-use.json'), text);
      await (await claimFolder(folder)).release();
    }
    expect(readdirSync(folder)).toEqual([]);
  });
});

describe('a part that is kept running', () => {
  it('is started again when it is killed, and ends when it is asked to', async () => {
    const lives: ChildProcess[] = [sleeper(60)];
    const part = supervise('lamp', lives[0], async () => {
      lives.push(sleeper(60));
      return lives[lives.length - 1];
    });
    lives[0].kill('SIGKILL');
    for (let i = 0; i < 100 && part.current() !== lives[1]; i++)
      await new Promise((resolve) => setTimeout(resolve, 50));
    expect(part.current()).toBe(lives[1]);
    expect(part.restarts()).toBe(1);
    await part.stop();
    expect(lives[1].signalCode).toBe('SIGTERM');
    await new Promise((resolve) => setTimeout(resolve, 1200));
    expect(lives).toHaveLength(2);
  });

  it('that can’t be started is tried again', async () => {
    let tries = 0;
    const part = supervise('lamp', sleeper(0), async () => {
      if (++tries < 2) throw new Error('No oil.');
      return sleeper(60);
    });
    for (let i = 0; i < 160 && tries < 2; i++) await new Promise((resolve) => setTimeout(resolve, 50));
    expect(tries).toBe(2);
    await part.stop();
  });
});

it('damaged files are the same for the same seed, and differ for another', () => {
  const grown = (seed: number): string[] =>
    [...oddFiles(process.cwd(), folder, seed, 12)].map(
      ({ name, content }) => `${name} ${createHash('sha256').update(content).digest('hex')}`,
    );
  const first = grown(1);
  expect(grown(1)).toEqual(first);
  expect(new Set(first).size).toBe(12);
  expect(grown(2).filter((file) => first.includes(file))).toEqual([]);
});
