import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { appendFile, mkdir, readdir, readFile, rm, stat, truncate, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { z } from 'zod';
import { safeInput } from '@merry-shadow/tracker/node/media-safety';
import { FootageError } from '@merry-shadow/tracker/node/probe';
import { runMediaTool } from '@merry-shadow/tracker/node/run-media-tool';
import type { Settings } from '../settings';
import type { Footage } from './footage';
import { needRoom } from './room';
import { writeDepthRecording } from './write-depth-recording';

/** What is known of a recording before it is a clip. */
const About = z.object({
  name: z.string(),
  production: z.uuid(),
  /** What its bytes are: a film as browsers write it, or what came of a depth camera (`depth-spool.ts`). */
  kind: z.enum(['film', 'depth']).default('film'),
});
export type About = z.infer<typeof About>;

/** A recording to which nothing came for so long has been left by its page: it becomes a clip as far as it got. */
const LEFT_MS = 20_000;

/**
 * Recordings that come in while they are made, piece by piece, each at its place in the file. What has come survives the page, the server and the
 * machine: a recording that its page has left becomes a clip by itself.
 */
export class Recordings {
  /** What finished recordings became: whoever missed the answer asks again. */
  private readonly finished = new Map<string, string>();
  /** Pieces of one recording are written one after the other. */
  private readonly writing = new Map<string, Promise<unknown>>();

  constructor(
    private readonly settings: Pick<Settings, 'data' | 'room'>,
    private readonly footage: Footage,
  ) {}

  private get folder(): string {
    return join(this.settings.data, 'recordings');
  }

  async begin(about: z.input<typeof About>): Promise<string> {
    await needRoom(this.folder, this.settings.room);
    const id = randomUUID();
    await mkdir(this.pathOf(id), { recursive: true });
    await writeFile(this.aboutPath(id), JSON.stringify(about));
    await writeFile(this.filmPath(id), '');
    return id;
  }

  /**
   * Writes a piece at its place; one that came before is written over by the same bytes.
   * @throws NoRoomError when the disk is nearly full: the recording stays as it is. @returns false when it is not there, or pieces before it are missing.
   */
  append(id: string, at: number, piece: Buffer): Promise<boolean> {
    return this.inTurn(id, async () => {
      const size = await this.sizeOf(id);
      if (size === null || at > size) return false;
      await needRoom(this.folder, this.settings.room + piece.length);
      if (at < size) await truncate(this.filmPath(id), at);
      await appendFile(this.filmPath(id), piece);
      return true;
    });
  }

  /** Makes a clip of what was recorded. @returns its id; null when nothing is there. @throws FootageError when it can't be read. */
  finish(id: string): Promise<string | null> {
    return this.inTurn(id, async () => {
      const size = await this.sizeOf(id);
      if (!size) return this.finished.get(id) ?? null;
      const { name, production, kind } = About.parse(JSON.parse(await readFile(this.aboutPath(id), 'utf8')));
      const whole = join(this.pathOf(id), 'whole.mkv');
      await (kind === 'depth' ? writeDepthRecording(this.filmPath(id), whole) : copyFilm(this.filmPath(id), whole));
      const hash = createHash('sha256');
      await pipeline(createReadStream(whole), hash);
      const received = { path: whole, hash: hash.digest('hex'), name };
      // A server that died right after it had made the clip finds it again.
      const clip =
        (await this.footage.known(received.hash, production)) ?? (await this.footage.add(received, production));
      await rm(this.pathOf(id), { recursive: true, force: true });
      this.finished.set(id, clip.id);
      return clip.id;
    });
  }

  drop(id: string): Promise<void> {
    return this.inTurn(id, () => rm(this.pathOf(id), { recursive: true, force: true }));
  }

  /** Finishes recordings that their pages have left. @returns how many. */
  async rescue(now = Date.now()): Promise<number> {
    let rescued = 0;
    for (const id of await readdir(this.folder).catch(() => [])) {
      const film = await stat(this.filmPath(id)).catch(() => null);
      if (!film || now - film.mtimeMs < LEFT_MS) continue;
      const made = await this.finish(id).catch((error: Error) => {
        if (error instanceof FootageError) return null;
        throw error;
      });
      if (made) rescued++;
      else await this.drop(id);
    }
    return rescued;
  }

  private inTurn<T>(id: string, work: () => Promise<T>): Promise<T> {
    if (!/^[0-9a-f-]{36}$/.test(id)) throw new Error('A recording is named by its id.');
    const result = (this.writing.get(id) ?? Promise.resolve()).then(work);
    const settled = result.catch(() => undefined);
    this.writing.set(id, settled);
    void settled.then(() => this.writing.get(id) === settled && this.writing.delete(id));
    return result;
  }

  private sizeOf = async (id: string): Promise<number | null> =>
    (await stat(this.filmPath(id)).catch(() => null))?.size ?? null;
  private pathOf = (id: string): string => join(this.folder, id);
  private filmPath = (id: string): string => join(this.folder, id, 'film');
  private aboutPath = (id: string): string => join(this.folder, id, 'about.json');
}

/** Browsers write files without a length, and one that broke off has none either. @throws FootageError when nothing can be read. */
async function copyFilm(film: string, into: string): Promise<void> {
  const copied = await runMediaTool(
    'ffmpeg',
    [
      ...['-hide_banner', '-loglevel', 'error', '-y', ...safeInput(film)],
      ...['-map', '0:v:0', '-map', '0:a:0?', '-c', 'copy', '-fflags', '+bitexact', '-f', 'matroska', into],
    ],
    { seconds: 600 },
  );
  if (copied.code !== 0) throw new FootageError('The recording holds no picture that can be read.');
}
