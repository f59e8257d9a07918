import { spawn, type ChildProcess } from 'node:child_process';
import { createInterface } from 'node:readline';

/** Starts one of our TypeScript programs and waits for the line of JSON that says it is up. */
export async function startProgram(
  script: string,
  environment: Record<string, string>,
): Promise<{ child: ChildProcess; hello: Record<string, unknown> }> {
  const child = spawn(process.execPath, ['--import', 'tsx', script], {
    env: { ...process.env, ...environment },
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
    // Its own process group: Ctrl-C reaches the start command alone, which stops the parts in order.
    detached: true,
  });
  const hello = await new Promise<Record<string, unknown>>((resolve, reject) => {
    child.once('exit', (code) => reject(new Error(`${script} ended with code ${code} before it was up.`)));
    createInterface({ input: child.stdout as NodeJS.ReadableStream }).on('line', (line) => {
      const said = helloIn(line);
      if (said) resolve(said);
      // All else is its log.
      else process.stderr.write(`${line}\n`);
    });
  });
  return { child, hello };
}

/** The line of JSON that says that a program is up, or null for any other line. */
function helloIn(line: string): Record<string, unknown> | null {
  try {
    const said = JSON.parse(line) as unknown;
    return typeof said === 'object' && said !== null && ('address' in said || 'ready' in said) ? { ...said } : null;
  } catch {
    return null;
  }
}

export async function stopProgram(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise<void>((resolve) => child.once('exit', () => resolve()));
  child.kill('SIGTERM');
  const timer = setTimeout(() => child.kill('SIGKILL'), 5000);
  await gone;
  clearTimeout(timer);
}

/** Runs a command to its end with our output. @returns its exit code. */
export function runCommand(program: string, args: string[], environment: Record<string, string> = {}): Promise<number> {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, { stdio: 'inherit', env: { ...process.env, ...environment } });
    child.once('error', reject);
    child.once('exit', (code) => resolve(code ?? 1));
  });
}
