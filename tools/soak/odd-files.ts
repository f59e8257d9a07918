import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { seededRandom } from '@merry-shadow/synth/random';

/** A damaged or odd file, and how it was made. */
export interface OddFile {
  name: string;
  content: Buffer;
}

type Random = () => number;
const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)];
const place = (random: Random, length: number): number => Math.floor(random() * Math.max(1, length));

/**
 * Grows damaged and odd files from the demo clips: the same seed gives the same files.
 * @param folder where the clips that they grow from are made.
 */
export function* oddFiles(root: string, folder: string, seed: number, count: number): Generator<OddFile> {
  const whole = makeWholeFiles(root, folder);
  for (let i = 0; i < count; i++) {
    const random = seededRandom(seed * 100_003 + i);
    const [kind, first] = pick(random, whole);
    // Every eighth file is odd without being damaged.
    const blows = i % 8 === 0 ? 0 : 1 + place(random, 3);
    let content = first;
    const done: string[] = [];
    for (let blow = 0; blow < blows; blow++) {
      const [name, damage] = pick(random, DAMAGES);
      content = damage(content, random, pick(random, whole)[1]);
      done.push(name);
    }
    yield { name: `${i} ${[kind, ...done].join(' ')}`, content };
  }
}

/** No random ids and no dates: the same file each time. */
const SAME = ['-fflags', '+bitexact', '-flags:v', '+bitexact'];

/** Short pieces of the demo clips in the containers, codecs, rates and forms that cameras and phones write. */
function makeWholeFiles(root: string, folder: string): [string, Buffer][] {
  const walk = ['-ss', '2', '-t', '1.2', '-i', join(root, 'demo/clips/walk-the-planks.mp4')];
  const rope = ['-ss', '4', '-t', '1', '-i', join(root, 'demo/clips/rope-haul.mp4')];
  const tone = ['-f', 'lavfi', '-i', 'sine=frequency=300:duration=1.2'];
  const small = ['-vf', 'scale=256:-2', '-preset', 'ultrafast'];
  const forms: [string, string[]][] = [
    ['plain.mp4', [...walk, ...small]],
    ['fast-start.mp4', [...walk, ...small, '-movflags', '+faststart']],
    ['pieces.mp4', [...walk, ...small, '-movflags', 'frag_keyframe+empty_moov', '-g', '10']],
    ['sound.mov', [...walk, ...tone, ...small, '-c:a', 'aac']],
    ['turned.mov', [...walk, ...small, '-metadata:s:v', 'rotate=90']],
    ['matroska.mkv', [...rope, ...small]],
    ['sound.mkv', [...rope, ...tone, ...small, '-c:a', 'libopus']],
    ['vp8.webm', [...rope, '-vf', 'scale=256:-2', '-c:v', 'libvpx', '-deadline', 'good', '-cpu-used', '5']],
    ['mjpeg.avi', [...walk, '-vf', 'scale=256:-2', '-c:v', 'mjpeg']],
    ['mpeg4.avi', [...rope, ...small, '-c:v', 'mpeg4']],
    ['stream.ts', [...walk, ...small, '-g', '6']],
    ['hevc.mp4', [...walk, ...small, '-c:v', 'libx265', '-tag:v', 'hvc1', '-x265-params', 'log-level=none']],
    ['ten-bit.mkv', [...walk, ...small, '-pix_fmt', 'yuv420p10le']],
    ['animation.gif', [...rope, '-vf', 'fps=10,scale=160:-2']],
    ['quick.mp4', [...walk, '-vf', 'scale=160:-2,fps=240', '-preset', 'ultrafast']],
    ['slow.mp4', [...rope, '-vf', 'scale=160:-2,fps=1', '-preset', 'ultrafast']],
    ['single.mp4', [...walk, ...small, '-frames:v', '1']],
    ['uneven.mkv', [...walk, '-vf', "select='mod(n,3)',scale=256:-2", '-fps_mode', 'vfr', '-preset', 'ultrafast']],
    ['gap.mkv', [...walk, '-vf', 'scale=256:-2,setpts=PTS+gt(N\\,20)*40/TB', '-fps_mode', 'passthrough']],
    ['late.mkv', [...walk, '-vf', 'scale=256:-2,setpts=PTS+50/TB', '-fps_mode', 'passthrough']],
    ['days.mkv', [...walk, '-vf', 'scale=64:-2,setpts=N*4000/TB', '-fps_mode', 'passthrough']],
    ['narrow.mp4', [...walk, '-vf', 'scale=2000:34', '-preset', 'ultrafast']],
    ['tiny.mp4', [...walk, '-vf', 'scale=16:16', '-preset', 'ultrafast']],
    ['only-sound.m4a', [...tone, '-c:a', 'aac']],
    ['two-videos.mkv', [...walk, ...rope, '-map', '0:v', '-map', '1:v', '-vf', 'scale=192:-2']],
    [
      'cover-first.mkv',
      [...walk, ...walk, '-map', '0:v', '-map', '1:v', '-c:v:0', 'mjpeg', '-frames:v:0', '1', '-vf', 'scale=256:-2'],
    ],
  ];
  return forms.map(([name, args]) => {
    const path = join(folder, name);
    execFileSync('ffmpeg', ['-hide_banner', '-loglevel', 'fatal', '-y', ...args, ...SAME, path], { stdio: 'ignore' });
    return [name, readFileSync(path)];
  });
}

type Damage = (content: Buffer, random: Random, other: Buffer) => Buffer;
const HEAD = 2048;
/** Names of boxes and elements whose sizes, counts and times are worth a lie. */
const BOXES = [
  'moov',
  'mvhd',
  'trak',
  'tkhd',
  'mdhd',
  'stts',
  'stsz',
  'stco',
  'stsc',
  'stsd',
  'avcC',
  'elst',
  'mdat',
  'avih',
  'strh',
  'idx1',
];

function changed(content: Buffer, change: (copy: Buffer) => void): Buffer {
  const copy = Buffer.from(content);
  if (copy.length > 8) change(copy);
  return copy;
}

const DAMAGES: [string, Damage][] = [
  [
    'bits turned in the head',
    (content, random) =>
      changed(content, (copy) => turnBits(copy, random, Math.min(HEAD, copy.length), 1 + place(random, 12))),
  ],
  [
    'bits turned',
    (content, random) => changed(content, (copy) => turnBits(copy, random, copy.length, 1 + place(random, 200))),
  ],
  ['cut', (content, random) => content.subarray(0, place(random, content.length))],
  [
    'cut short',
    (content, random) => content.subarray(0, content.length - 1 - place(random, Math.min(4000, content.length))),
  ],
  ['head gone', (content, random) => content.subarray(place(random, Math.min(HEAD, content.length)))],
  [
    'hole',
    (content, random) => {
      const at = place(random, content.length);
      return Buffer.concat([content.subarray(0, at), content.subarray(at + place(random, 20_000))]);
    },
  ],
  [
    'zeros',
    (content, random) =>
      changed(content, (copy) => {
        const at = place(random, copy.length);
        copy.fill(0, at, Math.min(copy.length, at + place(random, 8000)));
      }),
  ],
  [
    'noise',
    (content, random) =>
      changed(content, (copy) => {
        const at = place(random, copy.length);
        for (let i = at; i < Math.min(copy.length, at + 3000); i++) copy[i] = place(random, 256);
      }),
  ],
  ['twice', (content) => Buffer.concat([content, content])],
  ['another file behind', (content, _, other) => Buffer.concat([content, other])],
  [
    'another file inside',
    (content, random, other) => {
      const at = place(random, content.length);
      return Buffer.concat([content.subarray(0, at), other.subarray(0, 6000), content.subarray(at)]);
    },
  ],
  ['rubbish before', (content, random) => Buffer.concat([Buffer.alloc(1 + place(random, 900), 0x55), content])],
  ['false sizes', (content, random) => changed(content, (copy) => lie(copy, random, -4))],
  [
    'false times and counts',
    (content, random) => changed(content, (copy) => lie(copy, random, 4 + 4 * place(random, 6))),
  ],
  [
    'false element sizes',
    (content, random) =>
      changed(content, (copy) => {
        for (let i = 0; i < 4; i++)
          copy[place(random, Math.min(600, copy.length))] = pick(random, [0xff, 0x01, 0x80, 0x08]);
      }),
  ],
];

function turnBits(copy: Buffer, random: Random, within: number, count: number): void {
  for (let i = 0; i < count; i++) copy[place(random, within)] ^= 1 << place(random, 8);
}

/** Overwrites a number beside the name of a box. @param offset from the name, bytes. */
function lie(copy: Buffer, random: Random, offset: number): void {
  for (let i = 0; i < 3; i++) {
    const at = copy.indexOf(pick(random, BOXES), 0, 'latin1') + offset;
    if (at < 0 || at + 4 > copy.length) continue;
    copy.writeUInt32BE(
      pick(random, [0, 1, 7, 0x7fffffff, 0xffffffff, place(random, 2 ** 32), place(random, 5000)]),
      at,
    );
  }
}
