import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { join } from 'node:path';
import { Pool } from 'pg';
import * as schema from './schema';

export type Database = NodePgDatabase<typeof schema>;

export interface Connection {
  db: Database;
  pool: Pool;
  close: () => Promise<void>;
}

/** Opens a pool; lost idle connections are replaced by the pool and must not end the process. */
export function connect(url: string, onError: (error: Error) => void = () => undefined): Connection {
  const pool = new Pool({ connectionString: url, max: 8 });
  pool.on('error', onError);
  return { db: drizzle(pool, { schema }), pool, close: () => pool.end() };
}

/** Brings the database to the newest form. @param root the checkout's folder. */
export async function migrateDatabase(connection: Connection, root: string): Promise<void> {
  await migrate(connection.db, { migrationsFolder: join(root, 'apps/server/migrations') });
}
