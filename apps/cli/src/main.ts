import { Command } from 'commander';
import { addAccuracy } from './commands/accuracy';
import { addBench } from './commands/bench';
import { addJudge } from './commands/judge';
import { addMeasure } from './commands/measure';
import { addTrain } from './commands/train';
import { addSynth } from './commands/synth';
import { addTrack } from './commands/track';

/** The command line: the main job without a browser. Started through `./run`. */
const program = new Command('./run')
  .description('Merry Shadow: from footage to clean skeletal animation, on your own machine.')
  .showHelpAfterError('(add --help for the options)');
addTrack(program);
addJudge(program);
addMeasure(program);
addSynth(program);
addTrain(program);
addBench(program);
addAccuracy(program);

try {
  await program.parseAsync();
} catch (error) {
  process.stderr.write(`${(error as Error).message}\n`);
  process.exitCode = 1;
}
