import { Command } from 'commander';

/** The commands, each with how it adds itself: loaded only where it is called, as some of them load much. */
const COMMANDS: Record<string, () => Promise<(program: Command) => void>> = {
  track: async () => (await import('./commands/track')).addTrack,
  judge: async () => (await import('./commands/judge')).addJudge,
  measure: async () => (await import('./commands/measure')).addMeasure,
  synth: async () => (await import('./commands/synth')).addSynth,
  train: async () => (await import('./commands/train')).addTrain,
  bench: async () => (await import('./commands/bench')).addBench,
  accuracy: async () => (await import('./commands/accuracy')).addAccuracy,
};

/** The command line: the main job without a browser. Started through `./run`. */
const program = new Command('./run')
  .description('Merry Shadow: from footage to clean skeletal animation, on your own machine.')
  .showHelpAfterError('(add --help for the options)');

try {
  const called = process.argv[2] ?? '';
  const wanted = Object.hasOwn(COMMANDS, called) ? [called] : Object.keys(COMMANDS);
  for (const name of wanted) (await COMMANDS[name]())(program);
  await program.parseAsync();
} catch (error) {
  process.stderr.write(`${(error as Error).message}\n`);
  process.exitCode = 1;
}
