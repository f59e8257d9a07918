import { once } from 'node:events';
import { fitClock } from '@merry-shadow/core/signal/clock-fit';
import type { BridgeHello } from '@merry-shadow/contracts/depth-camera';
import { startMediaTool } from '@merry-shadow/tracker/node/media-process';
import { DEPTH_RIG_TAG, FootageError } from '@merry-shadow/tracker/node/probe';
import { matroskaBegin, matroskaFrame } from './raw-matroska';
import { readSpool, type SpooledFrame } from './depth-spool';

const isHello = (item: BridgeHello | SpooledFrame): item is BridgeHello => item.type === 'hello';

/** Brings both cameras' times to one clock, zero where colour begins. */
interface Clocks {
  colour: (time: number) => number;
  depth: (time: number) => number;
}

/**
 * Makes one Matroska file of what came of a depth camera (docs/formats.md): H.264 colour, lossless FFV1 depth, how both cameras lie to each other. Both get true times:
 * a device whose cameras have clocks of their own is brought to ours by when its frames came.
 * @throws FootageError when no colour picture came, or ffmpeg can't read what came.
 */
export async function writeDepthRecording(spool: string, into: string): Promise<void> {
  const { hello, clocks } = await lookThrough(spool);
  const { rig, colourFormat, colourRate } = hello;
  const ffmpeg = startMediaTool(
    'ffmpeg',
    [
      ...['-hide_banner', '-loglevel', 'error', '-y', '-f', 'matroska', '-i', 'pipe:0', '-map', '0:0', '-map', '0:1?'],
      ...['-fps_mode', 'passthrough', '-c:v:0', 'libx264', '-preset', 'veryfast', '-crf', '18'],
      ...['-pix_fmt:v:0', 'yuv420p', '-g', String(Math.round(colourRate))],
      ...['-c:v:1', 'ffv1', '-level', '3', '-pix_fmt:v:1', 'gray16le'],
      ...['-metadata', `${DEPTH_RIG_TAG}=${JSON.stringify(rig)}`, '-fflags', '+bitexact', '-f', 'matroska', into],
    ],
    ['pipe', 'ignore', 'pipe'],
  );
  const input = ffmpeg.stdin!;
  input.on('error', () => undefined); // the exit code tells the story
  let complaint = '';
  ffmpeg.stderr?.on('data', (data: Buffer) => (complaint = (complaint + data.toString()).slice(-2000)));
  const ended = once(ffmpeg, 'close') as Promise<[number | null]>;
  const write = async (bytes: Uint8Array): Promise<void> => {
    if (!input.write(bytes)) await Promise.race([once(input, 'drain'), ended]);
  };
  await write(
    matroskaBegin([
      { width: rig.colour.width, height: rig.colour.height, kind: colourFormat },
      { width: rig.depth.width, height: rig.depth.height, kind: 'gray16le' },
    ]),
  );
  const last = { colour: -1, depth: -1 };
  for await (const item of readSpool(spool)) {
    if (isHello(item)) continue;
    const seconds = clocks[item.type](item.time);
    // What came before the first picture belongs to nothing; what goes back in time was sent twice.
    if (seconds < 0 || seconds <= last[item.type]) continue;
    last[item.type] = seconds;
    await write(matroskaFrame(item.type === 'colour' ? 0 : 1, seconds, item.body.length));
    await write(item.body);
  }
  input.end();
  const [code] = await ended;
  if (code !== 0)
    throw new FootageError(
      `What the depth camera sent can't be read as pictures (${complaint.trim().split('\n')[0]}).`,
    );
}

/** Reads the times alone. */
async function lookThrough(spool: string): Promise<{ hello: BridgeHello; clocks: Clocks }> {
  const times = {
    colour: { own: [] as number[], arrived: [] as number[] },
    depth: { own: [] as number[], arrived: [] as number[] },
  };
  let hello: BridgeHello | null = null;
  for await (const item of readSpool(spool)) {
    if (isHello(item)) {
      hello = item;
      continue;
    }
    const list = times[item.type];
    // A clock that goes back is not counted.
    if (list.own.length > 0 && item.time <= list.own[list.own.length - 1]) continue;
    list.own.push(item.time);
    list.arrived.push(item.arrived);
  }
  const { colour, depth } = times;
  if (!hello || colour.own.length === 0) throw new FootageError('The depth camera sent no picture.');
  const alone = fitClock(colour.own, colour.arrived);
  const other = hello.oneClock || depth.own.length === 0 ? alone : fitClock(depth.own, depth.arrived);
  const begin = alone.rate * colour.own[0] + alone.offset;
  return {
    hello,
    clocks: {
      colour: (time) => alone.rate * time + alone.offset - begin,
      depth: (time) => other.rate * time + other.offset - begin,
    },
  };
}
