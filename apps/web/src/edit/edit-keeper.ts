import { z } from 'zod';
import { mergeEdits, same, type MergedEdits } from '@merry-shadow/core/edits/merge-edits';
import type { Plant } from '@merry-shadow/core/ground/plants';
import { TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { ChangedElsewhereError, NeverTakenError } from '../api/store-errors';

/** Edits as the server has them, in frames of the clip. */
const StoredEdits = z.object({ edits: TakeEdits, revision: z.number().int() });
export type StoredEdits = z.infer<typeof StoredEdits>;

/** What the browser keeps of edits that are not stored yet, and what they are a change of. */
const LeftOver = z.object({ edits: TakeEdits, base: StoredEdits });

/** Whether what was done is stored: `unsaved` is tried again, `refused` can't be stored as it is. */
export type KeepState = 'saved' | 'saving' | 'unsaved' | 'refused';

export interface KeeperTools {
  /** What the browser keeps over a reload, and under which name. */
  storage: Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>;
  name: string;
  /**
   * Stores edits that are a change of a revision. @returns the new revision.
   * @throws ChangedElsewhereError, NeverTakenError, or another error when it should be tried again.
   */
  send: (edits: TakeEdits, basedOn: number) => Promise<number>;
  fetch: () => Promise<StoredEdits>;
  /** Plants that were found in the capture, in frames of the clip. */
  found: () => readonly Plant[];
  /** Edits are another's now, or brought together with another's. */
  changed: (edits: TakeEdits) => void;
  /** Whose shall stand where both changed the same. */
  choose: (conflicts: readonly string[]) => Promise<'own' | 'theirs'>;
  state: (state: KeepState, problem: string) => void;
  wait: (milliseconds: number) => Promise<void>;
}

/** Milliseconds between tries: doubled each time up to the longest. */
const FIRST_WAIT = 500;
const LONGEST_WAIT = 15_000;

/**
 * Brings edits to the server, so that nothing is lost: one request at a time, each with the revision it is based on; what could not be stored
 * stays in the browser's storage and is tried again; what another window stored meanwhile is brought together with it.
 */
export class EditKeeper {
  private base: StoredEdits | null = null;
  /** The newest edits that are not stored yet. */
  private waiting: TakeEdits | null = null;
  private running = false;
  /** What this window has put into the browser's storage. */
  private kept: string | null = null;

  constructor(private readonly tools: KeeperTools) {}

  /** Told what the server has: it counts where nothing waits here, and never replaces what isn't stored yet. */
  told(stored: StoredEdits): void {
    const { tools } = this;
    if (this.base === null) {
      const left = this.leftOver();
      this.base = left?.base ?? stored;
      tools.changed(left?.edits ?? stored.edits);
      if (left) this.keep(left.edits);
    } else if (this.waiting === null && stored.revision > this.base.revision) {
      const known = same(stored.edits, this.base.edits);
      this.base = stored;
      if (!known) tools.changed(stored.edits);
    }
  }

  /** Stores edits, now or as soon as it can be done. */
  keep(edits: TakeEdits): void {
    this.waiting = edits;
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
        const revision = await tools.send(sent, this.base.revision);
        this.base = { edits: sent, revision };
        pause = FIRST_WAIT;
        if (this.waiting === sent) this.waiting = null;
        this.remember();
      } catch (error) {
        if (error instanceof NeverTakenError) {
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
    if (!this.waiting) tools.state('saved', '');
  }

  /** Brings what waits together with what another window stored. @returns false when that can't be told now. */
  private async join(): Promise<boolean> {
    const { tools, base } = this;
    const theirs = await tools.fetch().catch(() => null);
    if (!theirs || !base || !this.waiting) return false;
    const merge = (first: TakeEdits, second: TakeEdits): MergedEdits =>
      mergeEdits(base.edits, first, second, tools.found());
    const { conflicts } = merge(this.waiting, theirs.edits);
    const whose = conflicts.length > 0 ? await tools.choose(conflicts) : 'own';
    // More may have been done while the person chose.
    const own = this.waiting;
    const { edits } = whose === 'own' ? merge(own, theirs.edits) : merge(theirs.edits, own);
    this.base = theirs;
    this.waiting = edits;
    this.remember();
    tools.changed(edits);
    return true;
  }

  /** Keeps what waits over a reload and a crash; what another window keeps under the same name is left to it. */
  private remember(): void {
    const { storage, name } = this.tools;
    try {
      if (this.waiting) {
        this.kept = JSON.stringify({ edits: this.waiting, base: this.base });
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
