import { z } from 'zod';
import { mergeWork } from '@merry-shadow/core/edits/merge-work';
import { same, type Work } from '@merry-shadow/core/edits/work';
import { StoredWork } from '@merry-shadow/contracts/take-work';
import type { KeepState } from '../stores/saving';
import { ChangedElsewhereError, NeverTakenError } from '../api/store-errors';

/** A take's work as the server has it. */
const KnownWork = z.object({ work: StoredWork, revision: z.number().int() });
export type KnownWork = z.infer<typeof KnownWork>;

/** What the browser keeps of work that is not stored yet, and what it is a change of. */
const LeftOver = z.object({
  work: StoredWork,
  label: z.string(),
  base: KnownWork,
  sent: StoredWork.nullable().default(null),
});

export interface KeeperTools {
  /** What the browser keeps over a reload, and under which name. */
  storage: Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>;
  name: string;
  /**
   * Stores work that is a change of what the server has. @returns the new revision.
   * @throws ChangedElsewhereError, NeverTakenError, or another error when it should be tried again.
   */
  send: (work: Work, base: KnownWork, label: string) => Promise<number>;
  fetch: () => Promise<KnownWork>;
  /** The work is another's now, or brought together with another's. */
  changed: (work: Work) => void;
  /** Whose shall stand where both changed the same. */
  choose: (conflicts: readonly string[]) => Promise<'own' | 'theirs'>;
  state: (state: KeepState, problem: string) => void;
  wait: (milliseconds: number) => Promise<void>;
}

/** Milliseconds between tries: doubled each time up to the longest. */
const FIRST_WAIT = 500;
const LONGEST_WAIT = 15_000;

/**
 * Brings a take's work to the server, so that nothing is lost: one request at a time, each with the revision it is based on; what could not be stored
 * stays in the browser's storage and is tried again; what another window stored meanwhile is brought together with it.
 */
export class WorkKeeper {
  private base: KnownWork | null = null;
  /** The newest work that is not stored yet, and what was done last. */
  private waiting: { work: Work; label: string } | null = null;
  /** Work that was sent and not answered yet: the server may have it all the same. */
  private sent: Work | null = null;
  private running = false;
  private readonly waiters: (() => void)[] = [];
  /** What this window has put into the browser's storage. */
  private kept: string | null = null;

  constructor(private readonly tools: KeeperTools) {}

  /** The newest revision that is known here. */
  get revision(): number {
    return this.base?.revision ?? -1;
  }

  /** Told what the server has: it counts where nothing waits here, and never replaces what isn't stored yet. */
  told(stored: KnownWork): void {
    const { tools } = this;
    if (this.base === null) {
      const left = this.leftOver();
      this.base = left?.base ?? stored;
      this.sent = left?.sent ?? null;
      tools.changed(left?.work ?? stored.work);
      if (left) this.keep(left.work, left.label);
    } else if (this.waiting === null && stored.revision > this.base.revision) {
      const known = same(stored.work, this.base.work);
      this.base = stored;
      if (!known) tools.changed(stored.work);
    }
  }

  /** Waits until the server has all that was done, or will not take it. */
  settled(): Promise<void> {
    return this.running ? new Promise((resolve) => this.waiters.push(resolve)) : Promise.resolve();
  }

  /** Stores work, now or as soon as it can be done. @param label what was done. */
  keep(work: Work, label: string): void {
    this.waiting = { work, label };
    this.remember();
    if (!this.running) void this.run();
  }

  private async run(): Promise<void> {
    const { tools } = this;
    this.running = true;
    let pause = FIRST_WAIT;
    while (this.waiting && this.base) {
      const sent = this.waiting;
      tools.state('saving', '');
      try {
        this.sent ??= sent.work;
        this.remember();
        const revision = await tools.send(sent.work, this.base, sent.label);
        this.base = { work: sent.work, revision };
        this.sent = null;
        pause = FIRST_WAIT;
        if (this.waiting === sent) this.waiting = null;
        this.remember();
      } catch (error) {
        if (error instanceof NeverTakenError) {
          this.sent = null;
          tools.state('refused', error.message);
          if (this.waiting === sent) break;
        } else if (!(error instanceof ChangedElsewhereError) || !(await this.join())) {
          tools.state('unsaved', (error as Error).message);
          await tools.wait(pause);
          pause = Math.min(LONGEST_WAIT, 2 * pause);
        }
      }
    }
    this.running = false;
    this.waiters.splice(0).forEach((resolve) => resolve());
    if (!this.waiting) tools.state('saved', '');
  }

  /** Brings what waits together with what another window stored. @returns false when that can't be told now. */
  private async join(): Promise<boolean> {
    const { tools, base } = this;
    const theirs = await tools.fetch().catch(() => null);
    if (!theirs || !base || !this.waiting) return false;
    const unanswered = this.sent;
    this.sent = null;
    if (unanswered && same(theirs.work, unanswered)) {
      // It is this window's own, of which the answer was lost: there is nothing to bring together.
      this.base = theirs;
      return true;
    }
    const { conflicts } = mergeWork(base.work, this.waiting.work, theirs.work);
    const whose = conflicts.length > 0 ? await tools.choose(conflicts) : 'own';
    // More may have been done while the person chose.
    const { work: own, label } = this.waiting;
    const [first, second] = whose === 'own' ? [own, theirs.work] : [theirs.work, own];
    const { work } = mergeWork(base.work, first, second);
    this.base = theirs;
    this.waiting = { work, label };
    this.remember();
    tools.changed(work);
    return true;
  }

  /** Keeps what waits over a reload and a crash; what another window keeps under the same name is left to it. */
  private remember(): void {
    const { storage, name } = this.tools;
    try {
      if (this.waiting) {
        this.kept = JSON.stringify({ ...this.waiting, base: this.base, sent: this.sent });
        storage.setItem(name, this.kept);
      } else if (storage.getItem(name) === this.kept) storage.removeItem(name);
    } catch {
      // A full or forbidden storage: what waits stays in this window alone.
    }
  }

  private leftOver(): z.infer<typeof LeftOver> | null {
    try {
      this.kept = this.tools.storage.getItem(this.tools.name);
      return LeftOver.safeParse(JSON.parse(this.kept ?? 'null')).data ?? null;
    } catch {
      return null;
    }
  }
}
