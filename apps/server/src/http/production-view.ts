import { asc, eq } from 'drizzle-orm';
import type { HandShapeView } from '@merry-shadow/contracts/hand-shape';
import { PresetSettings, type PerformerView, type PresetView } from '@merry-shadow/contracts/performer';
import type { ProductionName, ProductionView } from '@merry-shadow/contracts/production';
import type { Database } from '../database/connect';
import { clips, handShapes, performers, presets, productions } from '../database/schema';
import { freeBytes, NoRoomError } from '../media/room';
import type { Settings } from '../settings';
import { clipViews } from './clip-view';
import { AppError } from './errors';
import { takeViews } from './take-view';

/** All productions, oldest first. */
export async function productionNames(db: Database): Promise<ProductionName[]> {
  const rows = await db.select().from(productions).orderBy(asc(productions.createdAt), asc(productions.id));
  return rows.map(({ id, name, putAwayAt }) => ({ id, name, putAway: putAwayAt !== null }));
}

/** The production that is asked for; without one the first that is not put away. @throws AppError when it is not there. */
function pick(names: readonly ProductionName[], wanted: string | undefined): ProductionName {
  const found = names.find(({ id, putAway }) => (wanted ? id === wanted : !putAway));
  if (!found) throw new AppError('PRODUCTION_NOT_FOUND');
  return found;
}

/** All productions; one is made where none is open. */
async function withOneOpen(db: Database): Promise<ProductionName[]> {
  const names = await productionNames(db);
  return names.some(({ putAway }) => !putAway) ? names : [...names, await addProduction(db, 'First production')];
}

/** The production that is asked for, or the first. @throws AppError when it is not there. */
export const openProduction = async (db: Database, wanted: string | undefined): Promise<ProductionName> =>
  pick(await withOneOpen(db), wanted);

export async function addProduction(db: Database, name: string): Promise<ProductionName> {
  const [{ id }] = await db.insert(productions).values({ name }).returning();
  return { id, name, putAway: false };
}

/** Everything that the lists show. */
export async function productionView(db: Database, settings: Settings, wanted?: string): Promise<ProductionView> {
  const names = await withOneOpen(db);
  const { id } = pick(names, wanted);
  const [footage, takes, cast, trouble] = await Promise.all([
    clipViews(db, eq(clips.productionId, id)),
    takeViews(db, eq(clips.productionId, id)),
    castPresetsAndShapes(db, id),
    roomTrouble(settings),
  ]);
  return { id, productions: names, clips: footage, takes, ...cast, trouble };
}

/** Who performs in a production, its presets, and the hand shapes that were kept. */
export async function castPresetsAndShapes(
  db: Database,
  production: string,
): Promise<{ performers: PerformerView[]; presets: PresetView[]; handShapes: HandShapeView[] }> {
  const [cast, named, shapes] = await Promise.all([
    db.select().from(performers).where(eq(performers.productionId, production)).orderBy(asc(performers.createdAt)),
    db.select().from(presets).where(eq(presets.productionId, production)).orderBy(asc(presets.createdAt)),
    db.select().from(handShapes).orderBy(asc(handShapes.name)),
  ]);
  return {
    performers: cast.map(({ id, name, height, colour }) => ({ id, name, height, colour })),
    presets: named.map(({ id, name, settings }) => ({ id, name, settings: PresetSettings.parse(settings) })),
    handShapes: shapes.map(({ id, name, angles }) => ({ id, name, angles })),
  };
}

/** What holds up all work, as a sentence. */
export async function roomTrouble({ data, room }: Settings): Promise<string | null> {
  const free = await freeBytes(data).catch(() => Infinity);
  return free < room ? new NoRoomError(data, room, free).message : null;
}
