import { join } from 'node:path';
import { bridge, openDevice } from './bridge';
import { loadDemo } from './load-demo';
import { stayOpen } from './stay-open';

/** `./run demo`: starts everything with the demo production and stays until Ctrl-C. */
const root = process.env.MERRY_SHADOW_ROOT ?? process.cwd();
await stayOpen({
  root,
  data: join(root, '.data/demo'),
  prepare: async ({ address, database, depthPort }) => {
    await loadDemo(root, address, database);
    // The film of the simulated camera is read while the page is opened.
    if (depthPort !== null)
      void openDevice(root).then(
        (device) => bridge(device, depthPort, () => undefined),
        (error: Error) => process.stderr.write(`${error.message}\n`),
      );
  },
  help: `./run demo [--port N] [--data DIR]

Starts PostgreSQL, the server and a worker with the demo production "Harbour Signals",
and prints the address. A simulated depth camera is there for the room Record. Ctrl-C stops everything; what you made is kept.

  --port N    port on 127.0.0.1 (4860; the next free one where it is taken)
  --data DIR  folder for database and media (.data/demo)
`,
});
