import { bridge, openDevice } from './bridge';

/** `./run depth-camera`: a simulated depth camera that connects to a running Merry Shadow. */
const args = process.argv.slice(2);
const port = Number(args.includes('--port') ? args[args.indexOf('--port') + 1] : 4870);
if (args.includes('--help') || !(port > 0 && port < 65_536)) {
  process.stdout.write(`./run depth-camera [--port N]

A simulated depth camera on the pier, for Merry Shadow's room "Record": colour with 30 and depth with 15
frames a second, each through a lens of its own. It connects by itself, and again after a restart. Ctrl-C ends it.

  --port N    where Merry Shadow listens for depth cameras (4870)
`);
  process.exit(args.includes('--help') ? 0 : 2);
}
bridge(await openDevice(process.env.MERRY_SHADOW_ROOT ?? process.cwd()), port, (sentence) =>
  process.stdout.write(`${sentence}\n`),
);
