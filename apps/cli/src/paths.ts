import { join } from 'node:path';

/** The checkout's folder; `./run` sets it. */
export const ROOT = process.env.MERRY_SHADOW_ROOT ?? process.cwd();
/** Converted networks, shared by server and command line. */
export const NETWORK_CACHE = join(ROOT, '.data', 'networks');
/** Git-ignored folder for what can be made again. */
export const DATA = join(ROOT, '.data');
