/** The server has other work than this was based on. */
export class ChangedElsewhereError extends Error {
  override name = 'ChangedElsewhereError';
}

/** The server will not take this work, however often it is asked. */
export class NeverTakenError extends Error {
  override name = 'NeverTakenError';
}
