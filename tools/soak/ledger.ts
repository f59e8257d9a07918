/** A field that was never changed. */
export const UNSET = 'unset';

/** What the product confirmed: it must be true in the end. What was asked but not confirmed may be either way. */
export class Ledger {
  /** Clips whose upload was confirmed, with the content that was sent. */
  readonly clips = new Map<string, { content: number }>();
  /** Clips whose deletion was confirmed; and those where nobody knows. */
  readonly gone = new Set<string>();
  readonly maybeGone = new Set<string>();
  /** Of each take and field the values that may be there now: one when the last change was confirmed. */
  readonly values = new Map<string, Set<string>>();
  /** Runs whose cancelling was confirmed, and captures that were confirmed, by take. */
  readonly cancelled = new Set<string>();
  readonly runs = new Map<string, string>();
  readonly counts = { uploads: 0, edits: 0, captures: 0, cancels: 0, deletions: 0, kills: 0, fullDisks: 0, refused: 0 };

  /** A change of a field is about to be asked for. */
  ask(takeId: string, field: string, value: unknown): void {
    const key = `${takeId} ${field}`;
    this.values.set(key, new Set([...(this.values.get(key) ?? [UNSET]), JSON.stringify(value)]));
  }

  confirm(takeId: string, field: string, value: unknown): void {
    this.values.set(`${takeId} ${field}`, new Set([JSON.stringify(value)]));
  }
}
