import { spawn } from 'node:child_process';

export interface ToolResult {
  code: number | null;
  stdout: string;
  stderr: string;
  timedOut: boolean;
}

/**
 * Runs ffmpeg or ffprobe to its end with a time limit and bounded output.
 * @param onLine called for each line on standard output.
 * @throws Error when the program is missing.
 */
export function runMediaTool(
  program: 'ffmpeg' | 'ffprobe',
  args: readonly string[],
  options: { seconds: number; onLine?: (line: string) => void; signal?: AbortSignal },
): Promise<ToolResult> {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, { stdio: ['ignore', 'pipe', 'pipe'] });
    const result: ToolResult = { code: null, stdout: '', stderr: '', timedOut: false };
    const stop = (): void => void child.kill('SIGKILL');
    const timer = setTimeout(() => {
      result.timedOut = true;
      stop();
    }, options.seconds * 1000);
    options.signal?.addEventListener('abort', stop, { once: true });
    let pending = '';
    child.stdout.on('data', (data: Buffer) => {
      const text = data.toString();
      if (result.stdout.length < 4_000_000) result.stdout += text;
      if (!options.onLine) return;
      const lines = (pending + text).split('\n');
      pending = lines.pop() ?? '';
      lines.forEach(options.onLine);
    });
    child.stderr.on('data', (data: Buffer) => {
      if (result.stderr.length < 100_000) result.stderr += data.toString();
    });
    child.on('error', (error) => {
      clearTimeout(timer);
      reject(new Error(`${program} can't be started (${error.message}). Install the Debian package "ffmpeg".`));
    });
    child.on('close', (code) => {
      clearTimeout(timer);
      options.signal?.removeEventListener('abort', stop);
      result.code = code;
      resolve(result);
    });
  });
}
