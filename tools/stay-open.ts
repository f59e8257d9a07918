import { resolve } from 'node:path';
import { startProduct, type RunningProduct } from './stage';

interface Opening {
  /** What `--help` prints. */
  help: string;
  /** Folder for database and media, unless `--data` names one. */
  data: string;
  root: string;
  /** What is done before the address is printed. */
  prepare?: (product: RunningProduct) => Promise<void>;
}

/** Starts the whole product, prints its address and stays until Ctrl-C. Options: --port, --data, --help. */
export async function stayOpen({ help, data, root, prepare }: Opening): Promise<void> {
  const args = process.argv.slice(2);
  const option = (name: string): string | undefined => (args.includes(name) ? args[args.indexOf(name) + 1] : undefined);
  if (args.includes('--help')) {
    process.stdout.write(help);
    return;
  }
  let stopping = false;
  let stopProduct: () => Promise<void> = async () => undefined;
  const quit = async (code: number): Promise<void> => {
    if (stopping) return;
    stopping = true;
    await stopProduct();
    process.exit(code);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => void quit(0));
  const folder = resolve(option('--data') ?? data);
  try {
    const product = await startProduct(root, folder, Number(option('--port') ?? 4860));
    stopProduct = product.stop;
    if (stopping) await product.stop();
    await prepare?.(product);
    process.stdout.write(
      `\nMerry Shadow is open at ${product.address}\nIts data lie in ${folder}\nCtrl-C closes it.\n`,
    );
  } catch (error) {
    process.stderr.write(`${(error as Error).message}\n`);
    await quit(1);
  }
}
