/** The server has other edits than these were based on. */
export class ChangedElsewhereError extends Error {
  override name = 'ChangedElsewhereError';
}

/** The server will not take these edits, however often it is asked. */
export class NeverTakenError extends Error {
  override name = 'NeverTakenError';
}
