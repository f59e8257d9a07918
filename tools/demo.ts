import { join, resolve } from 'node:path';
import { loadDemo } from './load-demo';
import { startProduct } from './stage';

/** `./run demo`: starts everything with the demo production and stays until Ctrl-C. */
const HELP = `./run demo [--port N] [--data DIR]

Starts PostgreSQL, the server and a worker with the demo production "Harbour Signals",
and prints the address. Ctrl-C stops everything; what you made is kept.

  --port N    port on 127.0.0.1 (4860; the next free one where it is taken)
  --data DIR  folder for database and media (.data/demo)
`;
const root = process.env.MERRY_SHADOW_ROOT ?? process.cwd();
const args = process.argv.slice(2);
const option = (name: string): string | undefined => (args.includes(name) ? args[args.indexOf(name) + 1] : undefined);
if (args.includes('--help')) {
  process.stdout.write(HELP);
  process.exit(0);
}

let stopping = false;
let stopProduct: () => Promise<void> = async () => undefined;
const quit = async (code: number): Promise<void> => {
  if (stopping) return;
  stopping = true;
  await stopProduct();
  process.exit(code);
};
process.on('SIGINT', () => void quit(0));
process.on('SIGTERM', () => void quit(0));
process.on('SIGHUP', () => void quit(0));

try {
  const product = await startProduct(
    root,
    resolve(option('--data') ?? join(root, '.data/demo')),
    Number(option('--port') ?? 4860),
  );
  stopProduct = product.stop;
  if (stopping) await product.stop();
  await loadDemo(root, product.address);
  process.stdout.write(`\nMerry Shadow is open at ${product.address}\nCtrl-C closes it.\n`);
} catch (error) {
  process.stderr.write(`${(error as Error).message}\n`);
  await quit(1);
}
