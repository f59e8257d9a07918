import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { DepthRig } from '@merry-shadow/core/camera/depth-rig';
import { senseDepth } from '../render/depth-sensor';

/** A frame as a device gives it: a JPEG picture, or a map of millimetres. */
export interface DeviceFrame {
  kind: 'colour' | 'depth';
  /** When it was taken, seconds from the beginning. */
  seconds: number;
  /** The device's own time of it, seconds. */
  time: number;
  body: Uint8Array;
}

/** The depth sensor's clock runs faster than the colour camera's by this part. */
const DRIFT = 4e-4;
/** What both clocks show when the device is switched on, seconds. */
const CLOCKS = { colour: 37.5, depth: 1204.25 };

/**
 * A simulated depth camera: it plays a film of a made-up performer over and over, whose depth has no faults, and adds those of a sensor: noise, edges that bleed, holes
 * (`senseDepth`), and a depth clock that drifts against the colour camera's.
 */
export class SimulatedDevice {
  private constructor(
    readonly rig: DepthRig,
    readonly colourRate: number,
    readonly depthRate: number,
    private readonly pictures: readonly Uint8Array[],
    private readonly maps: readonly Uint16Array[],
  ) {}

  /** @param path a recording of colour and clean depth (`./run synth SCRIPT.json --depth clean`). @throws Error when it can't be read. */
  static async open(path: string): Promise<SimulatedDevice> {
    const probe = JSON.parse(
      (await output('ffprobe', ['-v', 'error', '-show_streams', '-show_format', '-of', 'json', path])).toString(),
    ) as { streams: { avg_frame_rate: string }[]; format: { tags: Record<string, string> } };
    const rig = DepthRig.parse(JSON.parse(probe.format.tags.DEPTH_RIG));
    const [colourRate, depthRate] = probe.streams.map(({ avg_frame_rate }) => {
      const [frames, seconds] = avg_frame_rate.split('/').map(Number);
      return frames / seconds;
    });
    const plain = ['-hide_banner', '-loglevel', 'error', '-i', path];
    const [film, depth] = await Promise.all([
      output('ffmpeg', [...plain, '-map', '0:0', '-c:v', 'mjpeg', '-q:v', '3', '-f', 'mjpeg', 'pipe:1']),
      output('ffmpeg', [...plain, '-map', '0:1', '-f', 'rawvideo', '-pix_fmt', 'gray16le', 'pipe:1']),
    ]);
    const size = rig.depth.width * rig.depth.height;
    const maps = Array.from({ length: Math.floor(depth.length / (size * 2)) }, (_, i) =>
      new Uint16Array(size).map((__, k) => depth.readUInt16LE((i * size + k) * 2)),
    );
    return new SimulatedDevice(rig, colourRate, depthRate, jpegsOf(film), maps);
  }

  /** Its frames in the order in which they are taken, without an end. */
  *frames(): Generator<DeviceFrame> {
    const { width, height } = this.rig.depth;
    for (let [colour, depth] = [0, 0]; ;) {
      const [shown, sensed] = [colour / this.colourRate, depth / this.depthRate];
      if (shown <= sensed) {
        yield {
          kind: 'colour',
          seconds: shown,
          time: CLOCKS.colour + shown,
          body: this.pictures[colour++ % this.pictures.length],
        };
        continue;
      }
      const map = senseDepth(this.maps[depth % this.maps.length], width, height, depth);
      yield {
        kind: 'depth',
        seconds: sensed,
        time: CLOCKS.depth + sensed * (1 + DRIFT),
        body: new Uint8Array(map.buffer),
      };
      depth++;
    }
  }
}

/** Cuts a stream of JPEG pictures (ITU-T T.81) where each begins: ffmpeg stuffs marks that lie within, so that none is mistaken. */
function jpegsOf(film: Buffer): Uint8Array[] {
  const begins: number[] = [];
  for (let at = film.indexOf('ffd8ff', 0, 'hex'); at >= 0; at = film.indexOf('ffd8ff', at + 3, 'hex')) begins.push(at);
  return begins.map((begin, i) => film.subarray(begin, begins[i + 1] ?? film.length));
}

async function output(program: string, args: string[]): Promise<Buffer> {
  const child = spawn(program, args, { stdio: ['ignore', 'pipe', 'pipe'] });
  const pieces: Buffer[] = [];
  child.stdout.on('data', (piece: Buffer) => pieces.push(piece));
  const [code] = (await once(child, 'close')) as [number | null];
  if (code !== 0) throw new Error(`The film of the simulated depth camera can't be read: ${args[args.length - 1]}`);
  return Buffer.concat(pieces);
}
