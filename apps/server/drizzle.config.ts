import { defineConfig } from 'drizzle-kit';

/** `npx drizzle-kit generate --config apps/server/drizzle.config.ts` writes a migration after a change of the schema. */
export default defineConfig({
  dialect: 'postgresql',
  schema: './apps/server/src/database/schema.ts',
  out: './apps/server/migrations',
});
