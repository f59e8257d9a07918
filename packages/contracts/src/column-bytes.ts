import { z } from 'zod';

/**
 * Columns of numbers as bytes, for the database and the wire: four letters that say what it is, the length
 * of a JSON header (32 bits, little endian), the header padded with blanks to a multiple of four, then each
 * column that the header names, little endian and padded to a multiple of four: 32-bit floats, or quarters as 16-bit whole numbers.
 */
export interface ByteColumn {
  name: string;
  /** Values for each frame. */
  width: number;
  data: Float32Array;
  /** Stored in quarters of one, half as large: for pixels, which nothing tells finer. −8191.75 … 8191.75. */
  quarters?: boolean;
}

/** What stands for no number among quarters. */
const NO_QUARTERS = -32768;

const Frame = z.looseObject({
  frames: z.number().int().min(0),
  columns: z.array(
    z.object({ name: z.string(), width: z.number().int().positive(), quarters: z.boolean().optional() }),
  ),
});

/** @param kind four letters. @param header must tell the number of `frames`. */
export function columnsToBytes(kind: string, header: { frames: number }, columns: readonly ByteColumn[]): Uint8Array {
  const plain = JSON.stringify({
    ...header,
    columns: columns.map(({ name, width, quarters }) => ({ name, width, ...(quarters && { quarters }) })),
  });
  const encoded = new TextEncoder().encode(plain);
  const text = new Uint8Array(padded(encoded.length)).fill(0x20);
  text.set(encoded);
  const size = columns.reduce((sum, { data, quarters }) => sum + bytesOf(data.length, quarters), 0);
  const bytes = new Uint8Array(8 + text.length + size);
  bytes.set(new TextEncoder().encode(kind));
  new DataView(bytes.buffer).setUint32(4, text.length, true);
  bytes.set(text, 8);
  let at = 8 + text.length;
  for (const { data, quarters } of columns) {
    if (quarters) new Int16Array(bytes.buffer, at, data.length).set(toQuarters(data));
    else new Float32Array(bytes.buffer, at, data.length).set(data);
    at += bytesOf(data.length, quarters);
  }
  return bytes;
}

const padded = (length: number): number => Math.ceil(length / 4) * 4;
const bytesOf = (count: number, quarters: boolean | undefined): number => padded(count * (quarters ? 2 : 4));

const toQuarters = (data: Float32Array): Int16Array =>
  Int16Array.from(data, (value) =>
    Number.isNaN(value) ? NO_QUARTERS : Math.max(-32767, Math.min(32767, Math.round(value * 4))),
  );

const fromQuarters = (data: Int16Array): Float32Array =>
  Float32Array.from(data, (value) => (value === NO_QUARTERS ? NaN : value / 4));

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
  const columns = header.columns.map(({ name, width, quarters }) => {
    const count = header.frames * width;
    const size = bytesOf(count, quarters);
    if (body.byteLength < at + size) throw new Error(`The ${what} are cut off.`);
    const data = quarters ? fromQuarters(new Int16Array(body, at, count)) : new Float32Array(body, at, count);
    at += size;
    return { name, width, data, ...(quarters && { quarters }) };
  });
  return { header, columns };
}
