import { z } from 'zod';

/**
 * Columns of numbers as bytes, for the database and the wire: four letters that say what it is, the length
 * of a JSON header (32 bits, little endian), the header padded with blanks to a multiple of four, then each
 * column that the header names as 32-bit floats, little endian.
 */
export interface ByteColumn {
  name: string;
  /** Values for each frame. */
  width: number;
  data: Float32Array;
}

const Frame = z.looseObject({
  frames: z.number().int().min(0),
  columns: z.array(z.object({ name: z.string(), width: z.number().int().positive() })),
});

/** @param kind four letters. @param header must tell the number of `frames`. */
export function columnsToBytes(kind: string, header: { frames: number }, columns: readonly ByteColumn[]): Uint8Array {
  const plain = JSON.stringify({ ...header, columns: columns.map(({ name, width }) => ({ name, width })) });
  const encoded = new TextEncoder().encode(plain);
  const text = new Uint8Array(Math.ceil(encoded.length / 4) * 4).fill(0x20);
  text.set(encoded);
  const floats = columns.reduce((sum, column) => sum + column.data.length, 0);
  const bytes = new Uint8Array(8 + text.length + floats * 4);
  bytes.set(new TextEncoder().encode(kind));
  new DataView(bytes.buffer).setUint32(4, text.length, true);
  bytes.set(text, 8);
  let at = 8 + text.length;
  for (const { data } of columns) {
    new Float32Array(bytes.buffer, at, data.length).set(data);
    at += data.length * 4;
  }
  return bytes;
}

/**
 * @param what names the content in a complaint.
 * @throws Error when the bytes are something else or are cut off.
 */
export function columnsFromBytes(
  kind: string,
  what: string,
  bytes: Uint8Array,
): { header: Record<string, unknown> & { frames: number }; columns: ByteColumn[] } {
  if (bytes.length < 8 || new TextDecoder().decode(bytes.subarray(0, 4)) !== kind)
    throw new Error(`These bytes are no ${what}.`);
  const length = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(4, true);
  if (8 + length > bytes.length) throw new Error(`The ${what} are cut off.`);
  const header = Frame.parse(JSON.parse(new TextDecoder().decode(bytes.subarray(8, 8 + length))));
  // A fresh copy: the bytes may lie unaligned in a shared pool, and `slice` of a Node buffer would not copy.
  const body = new Uint8Array(bytes.subarray(8 + length)).buffer;
  let at = 0;
  const columns = header.columns.map(({ name, width }) => {
    const size = header.frames * width;
    if (body.byteLength < at + size * 4) throw new Error(`The ${what} are cut off.`);
    const data = new Float32Array(body, at, size);
    at += size * 4;
    return { name, width, data };
  });
  return { header, columns };
}
