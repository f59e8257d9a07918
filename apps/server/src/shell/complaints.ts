import { shortMessage } from './errors-in-words';

/**
 * What goes wrong in a process of ours goes to its log, in one line each.
 * @param name of the process, put before each line.
 * @returns writes such a line.
 */
export function complaintsOf(name: string): (error: unknown) => void {
  const complain = (error: unknown): void => void process.stderr.write(`${name}: ${shortMessage(error)}\n`);
  // When the database goes away while a job is being finished, the queue library leaves its own promise
  // unhandled. That must not end the process: the work is taken up again once the database is back.
  process.on('unhandledRejection', complain);
  // Whoever can't be helped ends with a line, and is started again.
  process.on('uncaughtException', (error) => {
    complain(error);
    process.exit(1);
  });
  return complain;
}
