/**
 * Ends the process in order when it is asked to (a signal, or the start command has gone), and in any case
 * after some time: what is left then is taken up again by another process.
 * @param milliseconds after which it ends whatever is still going on.
 */
export function stopWithin(
  milliseconds: number,
  complain: (error: unknown) => void,
  steps: readonly (() => unknown)[],
): void {
  let stopping = false;
  const stop = async (): Promise<void> => {
    if (stopping) return;
    stopping = true;
    setTimeout(() => process.exit(0), milliseconds).unref();
    for (const step of steps) await Promise.resolve(step()).catch(complain);
    process.exit(0);
  };
  for (const event of ['SIGTERM', 'SIGINT', 'disconnect']) process.on(event, () => void stop());
}
