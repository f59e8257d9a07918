import { spawn, type ChildProcess, type SpawnOptions } from 'node:child_process';
import { existsSync } from 'node:fs';

const SETPRIV = '/usr/bin/setpriv';
/** Puts a program under the kernel's care: it ends with the thread that started it, however that ends. */
const dieWithParent = process.platform === 'linux' && existsSync(SETPRIV) ? [SETPRIV, '--pdeathsig', 'KILL', '--'] : [];

/** Starts ffmpeg or ffprobe, which never outlives us. */
export function startMediaTool(
  program: 'ffmpeg' | 'ffprobe',
  args: readonly string[],
  stdio: SpawnOptions['stdio'],
): ChildProcess {
  const [command, ...rest] = [...dieWithParent, program, ...args];
  return spawn(command, rest, { stdio });
}

/** Whether the program itself could not be started, by what is known at its end. */
export const isMissing = (code: number | null, complaint: string): boolean =>
  code === 127 && complaint.includes('setpriv');
