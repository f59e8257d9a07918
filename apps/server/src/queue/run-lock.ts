import type { Pool, PoolClient } from 'pg';

/**
 * Who works on a run holds an advisory lock on it for as long as its connection lives. When a worker
 * is killed, PostgreSQL lets go of the lock, and anybody can see that the run is orphaned.
 */
const SPACE = 0x6d65;

function key(runId: string): number {
  return Number.parseInt(runId.replaceAll('-', '').slice(0, 7), 16);
}

export class RunLock {
  private readonly gone = new AbortController();
  /** Aborted when the connection broke, and with it the lock: somebody else may work on the run. */
  readonly lost = this.gone.signal;

  private constructor(
    private readonly client: PoolClient,
    private readonly id: number,
  ) {
    client.on('error', this.breakOff);
  }

  private readonly breakOff = (): void => this.gone.abort();

  /** @returns null when somebody else holds it. */
  static async take(pool: Pool, runId: string): Promise<RunLock | null> {
    const client = await pool.connect();
    const { rows } = await client.query<{ got: boolean }>('select pg_try_advisory_lock($1, $2) as got', [
      SPACE,
      key(runId),
    ]);
    if (rows[0].got) return new RunLock(client, key(runId));
    client.release();
    return null;
  }

  async release(): Promise<void> {
    this.client.off('error', this.breakOff);
    if (this.lost.aborted) return this.client.release(true);
    try {
      await this.client.query('select pg_advisory_unlock($1, $2)', [SPACE, this.id]);
      this.client.release();
    } catch (error) {
      this.client.release(error as Error);
    }
  }
}
