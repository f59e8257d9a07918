import { mkdir, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { buildWeb } from './build-web';
import { runCommand } from './processes';

/** `./run test`: lint, types, unit tests, tests of the real interface, a short soak; closes with the counts. */
const HELP = `./run test [unit|e2e]

Runs lint, the type check, the unit tests (Jest) and the tests of the real interface (Playwright
in Debian's Chromium against the real server) and two minutes of ./run soak, and closes with
"N passed, N failed".
"unit" or "e2e" runs only that part.
`;
const args = process.argv.slice(2);
if (args.includes('--help')) {
  process.stdout.write(HELP);
  process.exit(0);
}
const root = process.env.MERRY_SHADOW_ROOT ?? process.cwd();
const bin = (path: string): string => join(root, 'node_modules', path);
const only = args[0];
let passed = 0;
let failed = 0;

async function check(title: string, script: string, options: string[]): Promise<void> {
  process.stdout.write(`\n${title}\n`);
  if ((await runCommand(process.execPath, [script, ...options])) === 0) passed++;
  else failed++;
}

/** Runs a test runner and adds what its report counts; a runner that ends badly without a failed test counts as one. */
async function suite(
  title: string,
  report: string,
  options: string[],
  count: (report: unknown) => [number, number],
): Promise<void> {
  process.stdout.write(`\n${title}\n`);
  await rm(report, { force: true });
  const code = await runCommand(process.execPath, options, { MERRY_SHADOW_ROOT: root });
  const [good, bad] = await readFile(report, 'utf8').then(
    (text) => count(JSON.parse(text)),
    () => [0, 1] as [number, number],
  );
  passed += good;
  failed += code !== 0 && bad === 0 ? 1 : bad;
}

await mkdir(join(root, 'test-results'), { recursive: true });
await mkdir(join(root, '.data'), { recursive: true });
if (!only) {
  await check('Lint', bin('eslint/bin/eslint.js'), ['.']);
  await check('Types', bin('typescript/bin/tsc'), ['--noEmit', '-p', 'tsconfig.json']);
  await check('Types of the core, without browser or Node.js', bin('typescript/bin/tsc'), [
    '--noEmit',
    '-p',
    'packages/core/tsconfig.json',
  ]);
  await check('Types of the interface', bin('vue-tsc/bin/vue-tsc.js'), ['--noEmit', '-p', 'apps/web/tsconfig.json']);
}
if (only !== 'e2e') {
  const report = join(root, 'test-results/unit.json');
  await suite('Unit tests', report, [bin('jest/bin/jest.js'), '--json', '--outputFile', report], (data) => {
    const { numPassedTests, numFailedTests, numFailedTestSuites } = data as Record<string, number>;
    return [numPassedTests, numFailedTests || numFailedTestSuites];
  });
}
if (only !== 'unit') {
  await buildWeb(root);
  const report = join(root, 'test-results/e2e.json');
  await suite('The real interface', report, ['--import', 'tsx', bin('@playwright/test/cli.js'), 'test'], (data) => {
    const { expected, unexpected, flaky } = (data as { stats: Record<string, number> }).stats;
    return [expected, unexpected + flaky];
  });
}
if (!only)
  await check('Two minutes of kills, full disks and damaged files', '--import', [
    ...['tsx', join(root, 'tools/soak.ts')],
    ...['--minutes', '2', '--odd', '200'],
  ]);
process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(failed > 0 ? 1 : 0);
