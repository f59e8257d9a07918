import { and, eq, inArray } from 'drizzle-orm';
import type { FastifyReply } from 'fastify';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { ServerEvent } from '@merry-shadow/contracts/production';
import { Changes, type Change } from '../database/changes';
import { clips, runs, takes } from '../database/schema';
import type { AppParts } from './app-parts';
import { clipViews } from './clip-view';
import { castPresetsAndShapes, openProduction, productionNames, productionView, roomTrouble } from './production-view';
import { takeViews } from './take-view';

const Query = z.object({
  /** Production that is open; the first one if left out. */
  production: z.uuid().optional(),
  /** Take that is open: it is told what the tracker sees. */
  take: z.uuid().optional(),
});

/** How often it is looked whether there is room on the disk, and a line is sent so that nobody takes the silence for an end, milliseconds. */
const LOOK_MS = 5000;

interface Listener {
  production: string;
  take: string | undefined;
  tell: (event: ServerEvent) => void;
  reply: FastifyReply;
}

/**
 * `/api/events`: what changes, as server-sent events (HTML standard). Each stream begins with everything that the lists show, also after a lost
 * connection, so that nobody has to ask.
 */
export function eventRoutes({ connection: { db }, settings }: AppParts): FastifyPluginAsyncZod {
  const listeners = new Set<Listener>();

  async function tellAll(changes: Change[]): Promise<void> {
    if (listeners.size === 0) return;
    const ids = (kind: Change['kind']): string[] => changes.filter((item) => item.kind === kind).map(({ id }) => id);
    if (ids('production').length > 0) {
      const names = await productionNames(db);
      for (const production of openOnes()) {
        const event: ServerEvent = {
          kind: 'productions',
          productions: names,
          ...(await castPresetsAndShapes(db, production)),
        };
        for (const listener of listeners) if (listener.production === production) listener.tell(event);
      }
    }
    for (const production of openOnes()) {
      const event = await changedIn(production, ids('clip'), ids('take'));
      for (const listener of listeners) if (event && listener.production === production) listener.tell(event);
    }
    for (const { take, tell } of listeners) if (take && ids('take').includes(take)) tell(await previewOf(take));
  }

  /** Productions that somebody looks at. */
  const openOnes = (): Set<string> => new Set([...listeners].map(({ production }) => production));

  /** What changed in a production; null for nothing. */
  async function changedIn(production: string, clipIds: string[], takeIds: string[]): Promise<ServerEvent | null> {
    const within = eq(clips.productionId, production);
    const [changedClips, changedTakes] = await Promise.all([
      clipIds.length > 0 ? clipViews(db, and(within, inArray(clips.id, clipIds))) : [],
      takeIds.length > 0 ? takeViews(db, and(within, inArray(takes.id, takeIds))) : [],
    ]);
    const there = new Set([...changedClips, ...changedTakes].map(({ id }) => id));
    const gone = [...clipIds, ...takeIds].filter((id) => !there.has(id));
    if (there.size + gone.length === 0) return null;
    return { kind: 'changed', clips: changedClips, takes: changedTakes, gone };
  }

  async function previewOf(takeId: string): Promise<ServerEvent> {
    const [run] = await db
      .select({ preview: runs.preview })
      .from(runs)
      .where(and(eq(runs.takeId, takeId), eq(runs.state, 'running')));
    return { kind: 'preview', takeId, preview: run?.preview ?? null };
  }

  /** Brings a listener to the newest state. */
  async function tellWhole({ production, take, tell }: Listener): Promise<void> {
    tell({ kind: 'all', production: await productionView(db, settings, production) });
    if (take) tell(await previewOf(take));
  }

  return async (app) => {
    const failed = (error: Error): void => app.log.error(error);
    /** Who can't be told is let go: the page comes back and begins anew. */
    const letGo = (error: Error): void => {
      failed(error);
      for (const { reply } of listeners) reply.raw.destroy();
    };
    // One after the other, so that nothing older is told after something newer.
    let telling: Promise<unknown> = Promise.resolve();
    const inTurn = (work: () => Promise<unknown>): Promise<unknown> => (telling = telling.then(work).catch(letGo));
    const changes = new Changes(
      settings.database,
      (list) => void inTurn(() => tellAll(list)),
      () => void inTurn(() => Promise.all([...listeners].map(tellWhole))),
      failed,
    );
    let trouble: string | null = null;
    const look = async (): Promise<void> => {
      if (listeners.size === 0) return;
      const now = await roomTrouble(settings);
      for (const { tell, reply } of listeners) {
        if (now !== trouble) tell({ kind: 'trouble', trouble: now });
        reply.raw.write(':\n\n');
      }
      trouble = now;
    };
    const timer = setInterval(() => void look().catch(failed), LOOK_MS);
    app.addHook('onReady', () => changes.listen());
    app.addHook('preClose', async () => {
      clearInterval(timer);
      for (const { reply } of listeners) reply.raw.end();
      await changes.close();
    });

    app.get('/api/events', { schema: { querystring: Query } }, async ({ query }, reply) => {
      const production = (await openProduction(db, query.production)).id;
      const { raw } = reply.hijack();
      raw.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
      const tell = (event: ServerEvent): void => void raw.write(`data: ${JSON.stringify(event)}\n\n`);
      const listener = { production, take: query.take, tell, reply };
      listeners.add(listener);
      raw.on('close', () => listeners.delete(listener));
      await inTurn(() => tellWhole(listener));
    });
  };
}
