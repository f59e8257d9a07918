import {
  boolean,
  customType,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgEnum,
  pgTable,
  primaryKey,
  real,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import { sql } from 'drizzle-orm';
import type { ClipFacts, JudgedSummary } from '@merry-shadow/contracts/clip';
import type { Looks } from '@merry-shadow/core/judge/looks';
import type { TakeEdits } from '@merry-shadow/core/edits/take-edits';
import type { PerformerPoint, RunPreview, TakeSettings } from '@merry-shadow/contracts/take';
import type { Work, WorkChange } from '@merry-shadow/core/edits/work';
import type { CapturedParts, ObservationGroup } from '@merry-shadow/core/observe/observations';

const bytes = customType<{ data: Buffer }>({ dataType: () => 'bytea' });
const created = () => timestamp('created_at', { withTimezone: true }).notNull().defaultNow();

export const clipState = pgEnum('clip_state', ['waiting', 'preparing', 'ready', 'failed']);
export const runState = pgEnum('run_state', ['waiting', 'running', 'done', 'failed', 'cancelled']);

/** Clips and takes that belong together. */
export const productions = pgTable('productions', {
  id: uuid('id').primaryKey().defaultRandom(),
  name: text('name').notNull(),
  /** When it was put away: out of sight, and kept. */
  putAwayAt: timestamp('put_away_at', { withTimezone: true }),
  createdAt: created(),
});

/** A brought-in video file. The file lies in the media folder under its content hash. */
export const clips = pgTable(
  'clips',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    productionId: uuid('production_id')
      .notNull()
      .references(() => productions.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    hash: text('hash').notNull(),
    state: clipState('state').notNull().default('waiting'),
    /** A sentence for the person: why it failed, or what it waits for. */
    problem: text('problem'),
    /** Part of the preparation that is done, 0 … 1. */
    progress: real('progress').notNull().default(0),
    /** How often its preparation was begun. */
    tries: integer('tries').notNull().default(0),
    facts: jsonb('facts').$type<ClipFacts>(),
    /** What a person keeps with it. */
    tags: jsonb('tags').$type<string[]>().notNull().default([]),
    notes: text('notes').notNull().default(''),
    /** What will cost quality, in short; null until it was looked at. */
    judged: jsonb('judged').$type<JudgedSummary>(),
    /** Frames a second that it is prepared with; null for the file's own. A better file keeps the rate of the one it replaced. */
    rate: doublePrecision('rate'),
    replacedAt: timestamp('replaced_at', { withTimezone: true }),
    createdAt: created(),
  },
  (table) => [index('clips_hash').on(table.hash), index('clips_production').on(table.productionId)],
);

/** What was prepared of a content and lies whole in the media folder: written after the files are in place. */
export const prepared = pgTable('prepared', {
  hash: text('hash').primaryKey(),
  facts: jsonb('facts').$type<ClipFacts>().notNull(),
  /** Names and bytes of the files, by name. */
  sizes: jsonb('sizes').$type<[string, number][]>().notNull(),
  /** What was measured of it before tracking. */
  looks: jsonb('looks').$type<Looks>(),
  createdAt: created(),
});

/** Somebody who performs in a production: what is said once of them holds for all their takes. */
export const performers = pgTable(
  'performers',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    productionId: uuid('production_id')
      .notNull()
      .references(() => productions.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    /** Crown to floor, metres; null when it is not known. */
    height: real('height'),
    /** #rrggbb, what they are drawn in. */
    colour: text('colour').notNull(),
    createdAt: created(),
  },
  (table) => [index('performers_production').on(table.productionId)],
);

/** Settings with a name, to be laid over takes. */
export const presets = pgTable(
  'presets',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    productionId: uuid('production_id')
      .notNull()
      .references(() => productions.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    settings: jsonb('settings').$type<Partial<TakeSettings>>().notNull(),
    createdAt: created(),
  },
  (table) => [index('presets_production').on(table.productionId)],
);

/** Shapes of a hand that were kept, for all productions. */
export const handShapes = pgTable('hand_shapes', {
  id: uuid('id').primaryKey().defaultRandom(),
  name: text('name').notNull().unique(),
  /** Radians, see `HAND_ANGLES`. */
  angles: jsonb('angles').$type<number[]>().notNull(),
  createdAt: created(),
});

/** Two recordings of one performance, lined up by their sound. */
export const alignments = pgTable(
  'alignments',
  {
    clipId: uuid('clip_id')
      .notNull()
      .references(() => clips.id, { onDelete: 'cascade' }),
    otherId: uuid('other_id')
      .notNull()
      .references(() => clips.id, { onDelete: 'cascade' }),
    /** When the other clip begins, seconds of this one; may be negative. */
    offset: doublePrecision('offset').notNull(),
    /** How sure: how far the best place stands out from all others. */
    sure: real('sure').notNull(),
    createdAt: created(),
  },
  (table) => [primaryKey({ columns: [table.clipId, table.otherId] })],
);

/** A part of a clip, chosen by its in and out point, that is captured. */
export const takes = pgTable(
  'takes',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    clipId: uuid('clip_id')
      .notNull()
      .references(() => clips.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    /** First frame, and the one after the last, of the prepared clip. */
    fromFrame: integer('from_frame').notNull(),
    untilFrame: integer('until_frame').notNull(),
    /** Older rows may lack what was added later: read them through the schema. */
    settings: jsonb('settings').$type<Partial<TakeSettings>>().notNull(),
    /** What a person laid over the captured motion; the capture itself is never touched. */
    edits: jsonb('edits').$type<Partial<TakeEdits>>().notNull().default({}),
    /** Counts up with each change of name, range, settings and edits: a window tells which one it began with. */
    revision: integer('revision').notNull().default(0),
    /** Where it stands among the takes; smaller ones first. */
    place: doublePrecision('place')
      .notNull()
      .default(sql`extract(epoch from now())`),
    /** The one of its clip that is wanted. */
    best: boolean('best').notNull().default(false),
    /** When it was thrown away; it can be brought back. */
    removedAt: timestamp('removed_at', { withTimezone: true }),
    createdAt: created(),
  },
  (table) => [index('takes_clip').on(table.clipId)],
);

/** What each change of a take's work changed, so that every state it ever had can be brought back. */
export const takeRevisions = pgTable(
  'take_revisions',
  {
    takeId: uuid('take_id')
      .notNull()
      .references(() => takes.id, { onDelete: 'cascade' }),
    /** The revision that the change led to. */
    revision: integer('revision').notNull(),
    label: text('label').notNull().default(''),
    change: jsonb('change').$type<WorkChange>().notNull(),
    /** The whole state after it, now and then, so that no long way leads back. */
    snapshot: jsonb('snapshot').$type<Work>(),
    /** The name of a version that a person keeps. */
    version: text('version'),
    createdAt: created(),
  },
  (table) => [primaryKey({ columns: [table.takeId, table.revision] })],
);

/** One tracking of a take. The newest one that is done counts. */
export const runs = pgTable(
  'runs',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    takeId: uuid('take_id')
      .notNull()
      .references(() => takes.id, { onDelete: 'cascade' }),
    state: runState('state').notNull().default('waiting'),
    /** The frames it covers, as the take had them when it started. */
    fromFrame: integer('from_frame').notNull(),
    untilFrame: integer('until_frame').notNull(),
    doneFrames: integer('done_frames').notNull().default(0),
    framesPerSecond: real('frames_per_second'),
    /** What it looks at, as the take had it when it started. */
    parts: jsonb('parts')
      .$type<CapturedParts & { performer?: PerformerPoint | null; performerAgain?: PerformerPoint[]; fine?: boolean }>()
      .notNull()
      .default({ hands: false, face: false }),
    /** The frame that was looked at last and the body's marks on it. */
    preview: jsonb('preview').$type<RunPreview>(),
    /** A sentence for the person: why it failed, or what it waits for. */
    problem: text('problem'),
    /** Where it stands among those that wait; smaller ones first. */
    place: doublePrecision('place')
      .notNull()
      .default(sql`extract(epoch from now())`),
    createdAt: created(),
    finishedAt: timestamp('finished_at', { withTimezone: true }),
  },
  (table) => [
    index('runs_take').on(table.takeId),
    // A take is captured once at a time.
    uniqueIndex('runs_open')
      .on(table.takeId)
      .where(sql`${table.state} in ('waiting', 'running')`),
  ],
);

/** Observations of a few hundred frames, stored as they come, a row for each group of columns. */
export const observationChunks = pgTable(
  'observation_chunks',
  {
    runId: uuid('run_id')
      .notNull()
      .references(() => runs.id, { onDelete: 'cascade' }),
    /** First frame within the run. */
    first: integer('first').notNull(),
    frames: integer('frames').notNull(),
    /** Which columns: a group, or all together in rows of older data. */
    part: text('part').$type<ObservationGroup | 'all'>().notNull().default('all'),
    data: bytes('data').notNull(),
  },
  (table) => [primaryKey({ columns: [table.runId, table.first, table.part] })],
);

/** The solved motion of a run, kept so that opening a take is quick; made again when it was made from other settings. */
export const motions = pgTable('motions', {
  runId: uuid('run_id')
    .primaryKey()
    .references(() => runs.id, { onDelete: 'cascade' }),
  /** Hash of the settings and of the solver's version. */
  madeFrom: text('made_from').notNull(),
  data: bytes('data').notNull(),
});
