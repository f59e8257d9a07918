import { join } from 'node:path';
import { z } from 'zod';

/** What the server and its workers are told by the start command. */
const Environment = z.object({
  MERRY_SHADOW_ROOT: z.string().default(process.cwd()),
  MERRY_SHADOW_DATA: z.string().optional(),
  MERRY_SHADOW_DATABASE: z.string().default('postgres://merry@127.0.0.1:5432/merry'),
  MERRY_SHADOW_PORT: z.coerce.number().int().min(0).max(65535).default(4860),
  MERRY_SHADOW_DEPTH_PORT: z.coerce.number().int().min(0).max(65535).default(4870),
  MERRY_SHADOW_LOG: z.enum(['silent', 'error', 'warn', 'info', 'debug']).default('warn'),
  MERRY_SHADOW_MOST_HOURS: z.coerce.number().positive().default(4),
  MERRY_SHADOW_MOST_FRAMES: z.coerce.number().int().positive().default(500_000),
  MERRY_SHADOW_MOST_GIGAPIXELS: z.coerce.number().positive().default(4000),
  MERRY_SHADOW_ROOM_MB: z.coerce.number().nonnegative().default(400),
});

export interface Settings {
  root: string;
  data: string;
  database: string;
  port: number;
  /** Where bridges of depth cameras connect on 127.0.0.1. */
  depthPort: number;
  log: string;
  /** What may be brought in at most. */
  limits: ClipLimits;
  /** Bytes that are kept free on the disk: no new work begins with less. */
  room: number;
}

/** The most that a clip may hold, at its constant frame rate. */
export interface ClipLimits {
  seconds: number;
  frames: number;
  /** Pixels of a frame times frames. */
  pixels: number;
}

export function readSettings(environment: NodeJS.ProcessEnv = process.env): Settings {
  const env = Environment.parse(environment);
  return {
    root: env.MERRY_SHADOW_ROOT,
    data: env.MERRY_SHADOW_DATA ?? join(env.MERRY_SHADOW_ROOT, '.data'),
    database: env.MERRY_SHADOW_DATABASE,
    port: env.MERRY_SHADOW_PORT,
    depthPort: env.MERRY_SHADOW_DEPTH_PORT,
    log: env.MERRY_SHADOW_LOG,
    limits: {
      seconds: env.MERRY_SHADOW_MOST_HOURS * 3600,
      frames: env.MERRY_SHADOW_MOST_FRAMES,
      pixels: env.MERRY_SHADOW_MOST_GIGAPIXELS * 1e9,
    },
    room: env.MERRY_SHADOW_ROOM_MB * 1e6,
  };
}

/** Networks are shared by all data folders of a checkout. */
export function networkCache(settings: Settings): string {
  return join(settings.root, '.data', 'networks');
}
