import type { Correction } from './network-correction';

/** Numbers as text: base64 of 32-bit floats, little endian. */
interface CorrectionText {
  mean: string;
  deviation: string;
  layers: readonly { rows: number; weights: string }[];
}

const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** Reads a correction that `./run train` wrote. */
export function readCorrection({ mean, deviation, layers }: CorrectionText): Correction {
  return {
    mean: floats(mean),
    deviation: floats(deviation),
    layers: layers.map(({ rows, weights }) => ({ rows, weights: floats(weights) })),
  };
}

/** 32-bit floats of base64 text (RFC 4648), in any runtime. */
function floats(text: string): Float32Array {
  const clean = text.replace(/=+$/, '');
  const bytes = new Uint8Array(Math.floor((clean.length * 3) / 4));
  let [held, bits, count] = [0, 0, 0];
  for (const letter of clean) {
    held = ((held << 6) | ALPHABET.indexOf(letter)) & 0xffff;
    bits += 6;
    if (bits < 8) continue;
    bits -= 8;
    bytes[count++] = (held >> bits) & 0xff;
  }
  const view = new DataView(bytes.buffer);
  return Float32Array.from({ length: bytes.length / 4 }, (_, i) => view.getFloat32(i * 4, true));
}
