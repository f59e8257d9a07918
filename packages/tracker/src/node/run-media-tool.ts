import { isMissing, startMediaTool } from './media-process';

/** A timer can't run longer, milliseconds; it would end at once. */
const LONGEST_TIMER = 2 ** 31 - 1;

export interface ToolResult {
  code: number | null;
  stdout: string;
  stderr: string;
  timedOut: boolean;
}

/**
 * Runs ffmpeg or ffprobe to its end with a time limit and bounded output.
 * @param onLine called for each line on standard output.
 * @throws Error when the program is missing, or the signal's reason when it was aborted before.
 */
export function runMediaTool(
  program: 'ffmpeg' | 'ffprobe',
  args: readonly string[],
  options: { seconds: number; onLine?: (line: string) => void; signal?: AbortSignal },
): Promise<ToolResult> {
  return new Promise((resolve, reject) => {
    if (options.signal?.aborted) return reject(options.signal.reason as Error);
    const missing = (why: string): Error =>
      new Error(`${program} can't be started (${why}). Install the Debian package "ffmpeg".`);
    const child = startMediaTool(program, args, ['ignore', 'pipe', 'pipe']);
    const result: ToolResult = { code: null, stdout: '', stderr: '', timedOut: false };
    const stop = (): void => void child.kill('SIGKILL');
    const timer = setTimeout(
      () => {
        result.timedOut = true;
        stop();
      },
      Math.min(LONGEST_TIMER, options.seconds * 1000),
    );
    options.signal?.addEventListener('abort', stop, { once: true });
    let pending = '';
    child.stdout?.on('data', (data: Buffer) => {
      const text = data.toString();
      if (result.stdout.length < 4_000_000) result.stdout += text;
      if (!options.onLine) return;
      const lines = (pending + text).split('\n');
      pending = lines.pop() ?? '';
      lines.forEach(options.onLine);
    });
    child.stderr?.on('data', (data: Buffer) => {
      if (result.stderr.length < 100_000) result.stderr += data.toString();
    });
    child.on('error', (error) => {
      clearTimeout(timer);
      reject(missing(error.message));
    });
    child.on('close', (code) => {
      clearTimeout(timer);
      options.signal?.removeEventListener('abort', stop);
      result.code = code;
      if (isMissing(code, result.stderr)) return reject(missing(result.stderr.trim()));
      resolve(result);
    });
  });
}
