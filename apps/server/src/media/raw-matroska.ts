/** A video track of a stream of frames that are encoded later. */
export interface RawTrack {
  width: number;
  height: number;
  /** JPEG pictures, bare pixels of three bytes, or 16-bit grey, little-endian. */
  kind: 'jpeg' | 'rgb24' | 'gray16le';
}

/** Four letters that name a layout of bare pixels. */
const LAYOUTS = { rgb24: [0x52, 0x47, 0x42, 24], gray16le: [0x59, 0x31, 0, 16] } as const;

/** A number in as many bytes as it needs, the first first. */
function unsigned(value: number): number[] {
  const out: number[] = [];
  for (let rest = Math.round(value); out.length === 0 || rest > 0; rest = Math.floor(rest / 256))
    out.unshift(rest % 256);
  return out;
}
const letters = (text: string): number[] => [...Buffer.from(text, 'utf8')];
/** The length of an element, in eight bytes. */
const sizeOf = (bytes: number): number[] => [1, 0, ...padded(unsigned(bytes), 6)];
const padded = (bytes: number[], count: number): number[] => [
  ...new Array<number>(count - bytes.length).fill(0),
  ...bytes,
];
const element = (id: number, content: readonly number[]): number[] => [
  ...unsigned(id),
  ...sizeOf(content.length),
  ...content,
];
const number = (id: number, value: number): number[] => element(id, unsigned(value));

/** How many make a second: times are told in microseconds. */
const TICKS = 1e6;

/** The beginning of a Matroska stream (RFC 9559) of frames as they are, with a time for each. */
export function matroskaBegin(tracks: readonly RawTrack[]): Uint8Array {
  const ebml = element(0x1a45dfa3, [
    ...number(0x4286, 1),
    ...number(0x42f7, 1),
    ...number(0x42f2, 4),
    ...number(0x42f3, 8),
    ...element(0x4282, letters('matroska')),
    ...number(0x4287, 4),
    ...number(0x4285, 2),
  ]);
  const info = element(0x1549a966, [
    ...number(0x2ad7b1, 1e9 / TICKS),
    ...element(0x4d80, letters('Merry Shadow')),
    ...element(0x5741, letters('Merry Shadow')),
  ]);
  const entries = tracks.flatMap(({ width, height, kind }, i) =>
    element(0xae, [
      ...number(0xd7, i + 1),
      ...number(0x73c5, i + 1),
      ...number(0x83, 1),
      ...number(0x9c, 0),
      ...element(0x86, letters(kind === 'jpeg' ? 'V_MJPEG' : 'V_UNCOMPRESSED')),
      ...element(0xe0, [
        ...number(0xb0, width),
        ...number(0xba, height),
        ...(kind === 'jpeg' ? [] : element(0x2eb524, LAYOUTS[kind])),
      ]),
    ]),
  );
  // A segment of unknown length: what follows belongs to it.
  const segment = [0x18, 0x53, 0x80, 0x67, 0x01, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff];
  return Uint8Array.from([...ebml, ...segment, ...info, ...element(0x1654ae6b, entries)]);
}

/** The head of one frame, in a cluster of its own; the frame's bytes follow. @param track from 0 on. @param seconds 0 or more. */
export function matroskaFrame(track: number, seconds: number, bytes: number): Uint8Array {
  const time = number(0xe7, seconds * TICKS);
  // Track, no time beside the cluster's, a key frame.
  const block = [0xa3, ...sizeOf(bytes + 4), 0x80 | (track + 1), 0, 0, 0x80];
  return Uint8Array.from([0x1f, 0x43, 0xb6, 0x75, ...sizeOf(time.length + block.length + bytes), ...time, ...block]);
}
