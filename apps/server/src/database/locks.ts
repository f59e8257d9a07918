import { createHash } from 'node:crypto';
import { Client, type Pool } from 'pg';

/**
 * What can be locked: a run that is captured, a content that is prepared or judged, a content whose files are put in
 * place or taken away, a folder of files that are being received.
 */
export type LockKind = 'run' | 'prepare' | 'judge' | 'files' | 'incoming';

/** PostgreSQL's name of a lock: 64 bits of a hash. */
function keyOf(kind: LockKind, id: string): string {
  return createHash('sha256').update(`${kind} ${id}`).digest().readBigInt64BE(0).toString();
}

export interface Lock {
  /** Aborted when the connection broke, and with it the lock: somebody else may do the work now. */
  readonly lost: AbortSignal;
  release: () => Promise<void>;
}

/**
 * The advisory locks of a process, all on one connection of their own however many there are. Whoever works
 * on something holds its lock; when a process is killed, PostgreSQL lets go, and anybody can see that the
 * work is orphaned.
 */
export class Locks {
  private client: Promise<Client> | null = null;
  /** The last question that was put. */
  private asked: Promise<unknown> = Promise.resolve();
  private readonly held = new Map<string, AbortController>();

  constructor(
    private readonly url: string,
    private readonly onError: (error: Error) => void = () => undefined,
  ) {}

  /** @returns null when somebody else holds it, in this process or another one. */
  async take(kind: LockKind, id: string): Promise<Lock | null> {
    const key = keyOf(kind, id);
    if (this.held.has(key)) return null;
    const gone = new AbortController();
    this.held.set(key, gone);
    try {
      const client = await this.connected();
      const got = await this.ask(client, 'pg_try_advisory_lock', key);
      if (!got) {
        this.held.delete(key);
        return null;
      }
      if (gone.signal.aborted) throw new Error('The connection to the database was lost.');
      return { lost: gone.signal, release: () => this.release(key, gone, client) };
    } catch (error) {
      this.held.delete(key);
      throw error;
    }
  }

  /** Waits for a lock that is never held for long. @throws Error after half a minute. */
  async wait(kind: LockKind, id: string): Promise<Lock> {
    for (const deadline = Date.now() + 30_000; Date.now() < deadline; await new Promise((go) => setTimeout(go, 25))) {
      const lock = await this.take(kind, id);
      if (lock) return lock;
    }
    throw new Error('Another process has held the same files for half a minute.');
  }

  private async release(key: string, gone: AbortController, client: Client): Promise<void> {
    if (gone.signal.aborted) return;
    await this.ask(client, 'pg_advisory_unlock', key).catch(this.onError);
    if (this.held.get(key) === gone) this.held.delete(key);
  }

  /** Questions go over the connection one after the other. */
  private ask(client: Client, what: 'pg_try_advisory_lock' | 'pg_advisory_unlock', key: string): Promise<boolean> {
    const answer = this.asked.then(async () => {
      const { rows } = await client.query<{ got: boolean }>(`select ${what}($1::bigint) as got`, [key]);
      return rows[0].got;
    });
    this.asked = answer.catch(() => undefined);
    return answer;
  }

  private connected(): Promise<Client> {
    this.client ??= this.open();
    return this.client;
  }

  private async open(): Promise<Client> {
    const client = new Client({
      connectionString: this.url,
      application_name: 'merry-shadow locks',
      connectionTimeoutMillis: 15_000,
      query_timeout: 15_000,
      keepAlive: true,
    });
    let over = false;
    const lost = (): void => {
      // A connection that breaks says so more than once; by then there may be another one.
      if (over) return;
      over = true;
      this.client = null;
      const broken = [...this.held.values()];
      this.held.clear();
      broken.forEach((lock) => lock.abort());
    };
    client.on('error', (error: Error) => {
      this.onError(error);
      lost();
    });
    client.on('end', lost);
    try {
      await client.connect();
    } catch (error) {
      this.client = null;
      throw error;
    }
    return client;
  }

  /** Lets go of everything. */
  async close(): Promise<void> {
    const client = await this.client?.catch(() => null);
    await client?.end();
  }
}

/** Tells which of some things are locked right now by anybody, without taking their locks. */
export async function heldLocks(pool: Pool): Promise<(kind: LockKind, id: string) => boolean> {
  const { rows } = await pool.query<{ key: string }>(
    `select ((classid::bigint << 32) | objid::bigint)::text as key from pg_locks
     where locktype = 'advisory' and objsubid = 1 and granted
       and database = (select oid from pg_database where datname = current_database())`,
  );
  const keys = new Set(rows.map(({ key }) => key));
  return (kind, id) => keys.has(keyOf(kind, id));
}
