import { z } from 'zod';
import { emptyObservations, observationColumns, type Observations } from '@merry-shadow/core/observe/observations';

/**
 * Observations as bytes, for the database and the wire: "MSO2", the length of a JSON header (32 bits,
 * little endian), the header padded with blanks to a multiple of four, then each column that the
 * header names as 32-bit floats, little endian.
 */
const MAGIC = 0x324f534d;
const Header = z.object({
  frames: z.number().int().min(0),
  rate: z.number().positive(),
  width: z.number().positive(),
  height: z.number().positive(),
  columns: z.array(z.object({ name: z.string(), width: z.number().int().positive() })),
});

export function observationsToBytes(observations: Observations): Uint8Array {
  const { frames, rate, width, height } = observations;
  const columns = observationColumns(observations);
  let header = JSON.stringify({
    frames,
    rate,
    width,
    height,
    columns: columns.map((column) => ({ name: column.name, width: column.width })),
  });
  header = header.padEnd(Math.ceil(header.length / 4) * 4);
  const text = new TextEncoder().encode(header);
  const floats = columns.reduce((sum, column) => sum + column.data.length, 0);
  const bytes = new Uint8Array(8 + text.length + floats * 4);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, text.length, true);
  bytes.set(text, 8);
  let at = 8 + text.length;
  for (const { data } of columns) {
    new Float32Array(bytes.buffer, at, data.length).set(data);
    at += data.length * 4;
  }
  return bytes;
}

/** @throws Error when the bytes are no observations or are cut off. */
export function observationsFromBytes(bytes: Uint8Array): Observations {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 8 || view.getUint32(0, true) !== MAGIC) throw new Error('These bytes are no observations.');
  const length = view.getUint32(4, true);
  if (8 + length > bytes.length) throw new Error('The observations are cut off.');
  const header = Header.parse(JSON.parse(new TextDecoder().decode(bytes.subarray(8, 8 + length))));
  const { frames, rate, width, height } = header;
  const stored = new Set(header.columns.map((column) => column.name));
  const out = emptyObservations(frames, rate, width, height, {
    hands: stored.has('leftHand.marks'),
    face: stored.has('face.marks'),
  });
  const columns = new Map(observationColumns(out).map((column) => [column.name, column]));
  // A fresh copy: the bytes may lie unaligned in a shared pool, and `slice` of a Node buffer would not copy.
  const body = new Uint8Array(bytes.subarray(8 + length)).buffer;
  let at = 0;
  for (const { name, width: values } of header.columns) {
    const size = frames * values;
    if (body.byteLength < at + size * 4) throw new Error('The observations are cut off.');
    const column = columns.get(name);
    if (column?.width === values) column.data.set(new Float32Array(body, at, size));
    at += size * 4;
  }
  return out;
}
