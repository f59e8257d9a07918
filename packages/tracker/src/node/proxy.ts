import { COLUMNS, ROWS } from '../picture/small-picture';
import { safeInput } from './media-safety';
import type { ClipFacts } from './probe';

/** The longest side of the prepared picture. */
export const LONGEST_SIDE = 1920;
/** Every so manieth frame is a key frame, so that any frame is reached at once. */
export const KEY_EVERY = 8;

/** Transfer curves of pictures with a high dynamic range (ITU-R BT.2100). */
const HIGH_RANGE = new Set(['smpte2084', 'arib-std-b67']);

/** Files that a clip is prepared into. */
export interface ProxyFiles {
  /** The video that is shown and tracked. */
  proxy: string;
  /** Small pictures of all frames: grey levels of two bytes, what cuts and doubled frames are told from. */
  small: string;
}

/** The even size that a picture is prepared in. */
export function proxySize(width: number, height: number): { width: number; height: number } {
  const scale = Math.min(1, LONGEST_SIDE / Math.max(width, height));
  const even = (value: number): number => Math.max(2, Math.round((value * scale) / 2) * 2);
  return { width: even(width), height: even(height) };
}

/**
 * What ffmpeg is told to prepare a clip: upright, at a constant rate, with close key frames and sound, in the usual range of brightness.
 * @param mostFrames no more are made.
 */
export function proxyArguments(original: string, facts: ClipFacts, into: ProxyFiles, mostFrames: number): string[] {
  const { width, height } = proxySize(facts.width, facts.height);
  const filter = [
    `fps=${facts.rate}`,
    ...(HIGH_RANGE.has(facts.transfer) ? usualRange(facts.transfer) : []),
    `scale=${width}:${height}:flags=bicubic`,
    'format=yuv420p',
  ].join(',');
  const frames = ['-frames:v', String(mostFrames)];
  return [
    ...safeInput(original),
    ...[
      '-filter_complex',
      `[0:${facts.stream}]${filter},split[whole][part];[part]scale=${COLUMNS}:${ROWS}:flags=area,format=gray16le[small]`,
    ],
    ...['-map', '[whole]', '-map', '0:a:0?'],
    ...['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '17', '-g', String(KEY_EVERY), '-bf', '0'],
    ...['-c:a', 'aac', '-b:a', '128k', '-ac', '2', '-map_metadata', '-1'],
    ...[...frames, '-movflags', '+faststart', into.proxy],
    ...['-map', '[small]', ...frames, '-f', 'rawvideo', into.small],
  ];
}

/**
 * From a high dynamic range to the usual one: linear light with paper white (203 cd/m², ITU-R BT.2408) at 1, colours of BT.709; what is darker stays as it is, and
 * highlights are bent smoothly below the brightest (a Möbius transform, as ffmpeg's `tonemap` has it).
 */
const usualRange = (transfer: string): string[] => [
  `zscale=transferin=${transfer}:primariesin=2020:matrixin=2020_ncl:transfer=linear:npl=203`,
  'format=gbrpf32le',
  'zscale=primaries=709',
  'tonemap=mobius:param=0.7:desat=0',
  'zscale=transfer=709:matrix=709:range=limited',
];
