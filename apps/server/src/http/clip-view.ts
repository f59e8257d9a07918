import type { ClipView } from '@merry-shadow/contracts/clip';
import type { clips } from '../database/schema';

/** A clip as lists show it. */
export const clipView = (row: typeof clips.$inferSelect): ClipView => ({
  id: row.id,
  name: row.name,
  state: row.state,
  problem: row.problem,
  progress: row.progress,
  facts: row.facts,
  tags: row.tags,
  notes: row.notes,
  judged: row.judged,
  hash: row.hash,
});
