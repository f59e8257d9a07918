import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { rename } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';

/** Frames in a second and size of what is written. */
export interface VideoShape {
  rate: number;
  width: number;
  height: number;
}

const COLOUR = ['-c:v', 'libx264', '-preset', 'fast', '-pix_fmt', 'yuv420p', '-movflags', '+faststart'];
/** FFV1 in Matroska (RFC 9043, RFC 9559) loses nothing. */
const DEPTH = ['-c:v', 'ffv1', '-level', '3'];

/** A video that ffmpeg writes, frame by frame; it has its name once it is whole. */
export class VideoFile {
  private readonly partial: string;
  private readonly ffmpeg: ChildProcess;
  private readonly ended: Promise<number | null>;
  private complaint = '';

  /** @param pixels `rgb24` for colour (H.264), `gray16le` for millimetres of depth (FFV1). @param compression H.264's rate factor. */
  constructor(
    readonly path: string,
    { rate, width, height }: VideoShape,
    pixels: 'rgb24' | 'gray16le',
    compression = 19,
  ) {
    this.partial = join(dirname(path), `.partial.${basename(path)}`);
    const input = [
      '-f',
      'rawvideo',
      '-pix_fmt',
      pixels,
      '-s',
      `${width}x${height}`,
      '-r',
      String(rate),
      '-i',
      'pipe:0',
    ];
    const whole = ['-g', String(Math.round(rate)), '-threads', '2', '-fflags', '+bitexact', '-map_metadata', '-1'];
    this.ffmpeg = spawn(
      'ffmpeg',
      [
        ...['-hide_banner', '-loglevel', 'error', '-y', ...input],
        ...(pixels === 'rgb24' ? [...COLOUR, '-crf', String(compression)] : DEPTH),
        ...[...whole, this.partial],
      ],
      { stdio: ['pipe', 'ignore', 'pipe'] },
    );
    this.ffmpeg.stderr?.on('data', (data: Buffer) => (this.complaint += data.toString()));
    this.ffmpeg.stdin?.on('error', () => undefined); // the exit code tells the story
    this.ended = new Promise((resolve, reject) => {
      this.ffmpeg.on('error', reject);
      this.ffmpeg.on('close', resolve);
    });
    this.ended.catch(() => undefined);
  }

  async write(frame: Uint8Array): Promise<void> {
    const { stdin } = this.ffmpeg;
    if (stdin && !stdin.write(frame)) await Promise.race([once(stdin, 'drain'), this.ended]);
  }

  /** @throws Error when ffmpeg failed. */
  async finish(): Promise<void> {
    this.ffmpeg.stdin?.end();
    if ((await this.ended) !== 0) throw new Error(`ffmpeg could not write ${this.path}: ${this.complaint.trim()}`);
    await rename(this.partial, this.path);
  }

  abandon(): void {
    this.ffmpeg.kill('SIGKILL');
  }
}
