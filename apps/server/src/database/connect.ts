import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { join } from 'node:path';
import { Pool, type ClientBase } from 'pg';
import * as schema from './schema';

export type Database = NodePgDatabase<typeof schema>;

export interface Connection {
  db: Database;
  pool: Pool;
  close: () => Promise<void>;
}

/** Nobody waits longer for a connection, for an answer, or holds a transaction open while idle, milliseconds. */
const CONNECT_MS = 15_000;
const ANSWER_MS = 60_000;

/** Opens a pool; lost idle connections are replaced by the pool and must not end the process. */
export function connect(url: string, onError: (error: Error) => void = () => undefined): Connection {
  const pool = new Pool({
    connectionString: url,
    max: 8,
    connectionTimeoutMillis: CONNECT_MS,
    statement_timeout: ANSWER_MS,
    query_timeout: ANSWER_MS + 5000,
    idle_in_transaction_session_timeout: ANSWER_MS,
    keepAlive: true,
  });
  pool.on('error', onError);
  return { db: drizzle(pool, { schema }), pool, close: () => pool.end() };
}

/**
 * Does work in one transaction: all of it happens or nothing.
 * @param work is given the transaction as the query builder and as the bare connection (for the job queue).
 */
export async function inTransaction<T>(
  { pool }: Pick<Connection, 'pool'>,
  work: (db: Database, client: ClientBase) => Promise<T>,
): Promise<T> {
  const client = await pool.connect();
  let broken: Error | undefined;
  try {
    await client.query('begin');
    const result = await work(drizzle(client, { schema }), client);
    await client.query('commit');
    return result;
  } catch (error) {
    await client.query('rollback').catch((failed: Error) => (broken = failed));
    throw error;
  } finally {
    client.release(broken);
  }
}

/** Brings the database to the newest form. @param root the checkout's folder. */
export async function migrateDatabase(connection: Connection, root: string): Promise<void> {
  await migrate(connection.db, { migrationsFolder: join(root, 'apps/server/migrations') });
}
