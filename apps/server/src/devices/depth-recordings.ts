import type { RecordingNews } from '@merry-shadow/contracts/depth-camera';
import type { About, Recordings } from '../media/recordings';
import { spooledFrame, spooledHello, type SpooledFrame } from '../media/depth-spool';
import type { DepthCamera } from './depth-cameras';

/** What has come is put on the disk so often, milliseconds: no more is lost when the server is killed. */
const FLUSH_MS = 400;
/** Who recorded without an end and left: it ends after so many milliseconds without anybody who watches. */
const ALONE_MS = 20_000;

/** One recording from a depth camera, which goes on by itself: it waits neither for the page nor for tracking. */
class DepthRecording {
  private waiting: Uint8Array[] = [];
  private size = 0;
  private readonly counts = { colour: 0, depth: 0 };
  private first: number | null = null;
  private seconds = 0;
  private problem = '';
  private over = false;
  private aloneSince: number | null = null;
  private flushing: Promise<void> = Promise.resolve();
  private readonly leave: () => void;
  private readonly timer: NodeJS.Timeout;

  constructor(
    private readonly id: string,
    private readonly camera: DepthCamera,
    private readonly recordings: Recordings,
    private readonly longest: number,
  ) {
    this.waiting.push(spooledHello(camera.hello));
    this.leave = camera.watch({
      frame: (frame) => this.take(frame),
      gone: () => void this.end('The depth camera went away.'),
      news: () => undefined,
      records: true,
    });
    this.timer = setInterval(() => this.look(), FLUSH_MS);
  }

  /** Ends it. @returns once everything is on the disk. */
  end(problem = ''): Promise<void> {
    if (!this.over) {
      this.over = true;
      this.problem = problem;
      clearInterval(this.timer);
      this.leave();
      this.flush();
      this.tell();
    }
    return this.flushing;
  }

  private take(frame: SpooledFrame): void {
    if (this.over) return;
    if (this.first === null && frame.type === 'colour') this.first = frame.arrived;
    if (this.first !== null) this.seconds = frame.arrived - this.first;
    if (this.longest > 0 && this.seconds > this.longest) return void this.end();
    this.waiting.push(spooledFrame(frame));
    this.counts[frame.type]++;
  }

  private look(): void {
    this.flush();
    this.tell();
    if (this.camera.isWatched) this.aloneSince = null;
    else this.aloneSince ??= Date.now();
    if (this.longest === 0 && this.aloneSince !== null && Date.now() - this.aloneSince > ALONE_MS) void this.end();
  }

  private flush(): void {
    const bytes = Buffer.concat(this.waiting);
    this.waiting = [];
    if (bytes.length === 0) return;
    const at = this.size;
    this.size += bytes.length;
    this.flushing = this.flushing
      .then(() => this.recordings.append(this.id, at, bytes))
      .then(
        (taken) => void (taken || this.end('The recording is no longer there.')),
        (error: Error) => void this.end(error.message),
      );
  }

  private tell(): void {
    const news: RecordingNews = {
      type: 'recording',
      id: this.id,
      seconds: Math.max(0, this.longest > 0 ? Math.min(this.seconds, this.longest) : this.seconds),
      ...this.counts,
      over: this.over,
      problem: this.problem,
    };
    this.camera.tell(news);
  }
}

/** The recordings that are made from depth cameras now. */
export class DepthRecordings {
  private readonly running = new Map<string, DepthRecording>();

  constructor(private readonly recordings: Recordings) {}

  /** Begins one. @param seconds after which it ends by itself; 0 for never. @returns its id; null when the camera is recorded already. */
  async begin(camera: DepthCamera, about: Pick<About, 'name' | 'production'>, seconds: number): Promise<string | null> {
    const id = await this.recordings.begin({ ...about, kind: 'depth' });
    // Asked when nothing is waited for any more: two may begin at once.
    if (camera.isRecorded) {
      await this.recordings.drop(id);
      return null;
    }
    this.running.set(id, new DepthRecording(id, camera, this.recordings, seconds));
    return id;
  }

  /** Ends the one of this id, if it is made here and not over yet. */
  async end(id: string): Promise<void> {
    await this.running.get(id)?.end();
    this.running.delete(id);
  }

  async close(): Promise<void> {
    await Promise.all([...this.running.keys()].map((id) => this.end(id)));
  }
}
