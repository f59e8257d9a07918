import { openNativeNet } from '../src/node/native-nets';
import { openNodeWasmNet } from '../src/node/wasm-nets';
import type { NetName } from '../src/runtime/net';

/**
 * Runs every network on both runtimes with the same input and prints, as JSON, the largest difference
 * of each output as a part of its range. A process of its own: the wasm runtime patches the globals.
 */
const INPUTS: Record<NetName, [size: number, channels: number, low: number]> = {
  bodyDetector: [224, 3, -1],
  bodyMarks: [256, 3, 0],
  handRecrop: [256, 3, 0],
  handMarks: [224, 3, 0],
  faceMarks: [192, 3, 0],
  faceCheck: [192, 3, 0],
  faceLips: [16, 32, -1],
  faceRightEye: [16, 32, -1],
  faceLeftEye: [16, 32, -1],
};

/** A soft pattern with values low … 1. */
const value = (x: number, y: number, c: number, size: number, low: number): number =>
  low + (1 - low) * (0.5 + 0.25 * Math.sin((x / size) * 9 + c) + 0.25 * Math.cos((y / size) * 7 - c * 2));

function pattern(size: number, channels: number, low: number, planar: boolean): Float32Array {
  const out = new Float32Array(size * size * channels);
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++)
      for (let c = 0; c < channels; c++)
        out[planar ? (c * size + y) * size + x : (y * size + x) * channels + c] = value(x, y, c, size, low);
  return out;
}

/** Brings a planar map to the order of the wasm runtime. */
function toPixels(map: Float32Array, size: number, channels: number): Float32Array {
  return Float32Array.from(
    { length: map.length },
    (_, i) => map[(i % channels) * size * size + Math.floor(i / channels)],
  );
}

const MAPS: Partial<Record<NetName, [output: number, size: number, channels: number]>> = {
  bodyMarks: [2, 64, 39],
  faceMarks: [2, 48, 32],
};
const worst: Record<string, number> = {};
for (const name of Object.keys(INPUTS) as NetName[]) {
  const [size, channels, low] = INPUTS[name];
  const [native, wasm] = [await openNativeNet(name, '.data/networks'), await openNodeWasmNet(name)];
  const a = await native.run(pattern(size, channels, low, native.planar));
  const b = await wasm.run(pattern(size, channels, low, wasm.planar));
  a.forEach((values, k) => {
    const map = MAPS[name];
    const own = map?.[0] === k ? toPixels(values, map[1], map[2]) : values;
    let [least, most, apart] = [Infinity, -Infinity, own.length === b[k].length ? 0 : Infinity];
    own.forEach((v, i) => {
      least = Math.min(least, v);
      most = Math.max(most, v);
      apart = Math.max(apart, Math.abs(v - b[k][i]));
    });
    worst[`${name}.${k}`] = apart / Math.max(1, most - least);
  });
  await native.close();
}
process.stdout.write(`${JSON.stringify(worst)}\n`);
process.exit(0);
