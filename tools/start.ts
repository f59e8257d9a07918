import { homedir } from 'node:os';
import { join } from 'node:path';
import { stayOpen } from './stay-open';

/** `./run start`: opens the product for daily work, without demo data, on a data folder that it names. */
await stayOpen({
  root: process.env.MERRY_SHADOW_ROOT ?? process.cwd(),
  data: process.getuid?.() === 0 ? '/var/lib/merry-shadow' : join(homedir(), 'merry-shadow'),
  help: `./run start [--port N] [--data DIR]

Opens Merry Shadow for daily work: starts PostgreSQL, the server and a worker, and prints the
address and the folder of your data. Ctrl-C stops everything; what you made is kept.

  --port N    port on 127.0.0.1 (4860; the next free one where it is taken)
  --data DIR  folder for database and media (merry-shadow in your home folder; /var/lib/merry-shadow for root)
`,
});
