import { createHash, randomUUID } from 'node:crypto';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { convertNetwork, CONVERTER_VERSION, type NetworkPort } from '../convert/convert';
import type { NetName } from '../runtime/net';

/** Where each network lies in the npm package, with its fingerprint, and which of its tensors we want. */
interface Source {
  file: string;
  from?: number;
  until?: number;
  sha256: string;
  /** Tensors that are fed from outside; the network's own inputs if left out. */
  inputs?: number[];
  outputs: number[];
}

const PACKAGE = '@mediapipe/holistic';
const ASSETS = 'holistic_solution_packed_assets.data';
const FACE = {
  file: ASSETS,
  from: 1490304,
  until: 3986256,
  sha256: '883b7411747bac657c30c462d305d312e9dec6adbf8b85e2f5d8d722fca9455d',
};
export const SOURCES: Record<NetName, Source> = {
  bodyDetector: {
    file: ASSETS,
    from: 13915467,
    until: 16877755,
    sha256: 'a63c614bef30d35947f13be361820b1e4e3bec9cfeebf4d11216a18373108e85',
    outputs: [441, 429],
  },
  bodyMarks: {
    file: 'pose_landmark_full.tflite',
    sha256: 'e9a5c5cb17f736fafd4c2ec1da3b3d331d6edbe8a0d32395855aeb2cdfd64b9f',
    outputs: [337, 342, 298, 339],
  },
  handRecrop: {
    file: ASSETS,
    from: 9464955,
    until: 9588747,
    sha256: '67d996ce96f9d36fe17d2693022c6da93168026ab2f028f9e2365398d8ac7d5d',
    outputs: [151],
  },
  handMarks: {
    file: ASSETS,
    from: 3986256,
    until: 9464944,
    sha256: '8c026882c9ec059ce0f8e75266bee5a9a23c341a40e0000df755374d3d1b9b68',
    outputs: [165, 164, 166],
  },
  faceCheck: {
    file: ASSETS,
    from: 248408,
    until: 1490304,
    sha256: 'c603fa6149219a3e9487dc9abd7a0c24474c77263273d24868378cdf40aa26d1',
    outputs: [213, 210],
  },
  faceMarks: { ...FACE, outputs: [719, 710, 35] },
  faceLips: { ...FACE, inputs: [199], outputs: [697] },
  faceRightEye: { ...FACE, inputs: [200], outputs: [700, 703] },
  faceLeftEye: { ...FACE, inputs: [201], outputs: [704, 707] },
};

/** Reads a pinned part of the npm package. @throws Error when it isn't exactly the one that we know. */
export async function readPinned(
  name: string,
  { file, from, until, sha256 }: Pick<Source, 'file' | 'from' | 'until' | 'sha256'>,
): Promise<Uint8Array> {
  const folder = dirname(createRequire(import.meta.url).resolve(`${PACKAGE}/package.json`));
  const whole = await readFile(join(folder, file));
  const bytes = whole.subarray(from ?? 0, until ?? whole.length);
  const found = createHash('sha256').update(bytes).digest('hex');
  if (found !== sha256)
    throw new Error(
      `${name} in ${PACKAGE} is not the expected one (SHA-256 ${found.slice(0, 12)}…). Install the packages again with "npm ci".`,
    );
  return bytes;
}

/** Reads one network as it is in the npm package. */
export const readSource = (name: NetName): Promise<Uint8Array> => readPinned(`The network ${name}`, SOURCES[name]);

export interface StoredNetwork {
  path: string;
  inputs: NetworkPort[];
  outputs: NetworkPort[];
}

/**
 * Gives the ONNX file of a network, converting it first where the cache has none for this source and
 * this converter.
 * @param cache folder for converted networks.
 */
export async function storedNetwork(name: NetName, cache: string): Promise<StoredNetwork> {
  const { sha256, inputs: entries, outputs } = SOURCES[name];
  const path = join(cache, `${name}-${sha256.slice(0, 12)}-v${CONVERTER_VERSION}.onnx`);
  const manifest = `${path}.json`;
  try {
    const { inputs, outputs: ports } = JSON.parse(await readFile(manifest, 'utf8')) as StoredNetwork;
    return { path, inputs, outputs: ports };
  } catch {
    // Not there yet, or half written: make it.
  }
  const made = convertNetwork(await readSource(name), outputs, entries);
  await mkdir(cache, { recursive: true });
  await writeWhole(path, made.onnx);
  await writeWhole(
    manifest,
    JSON.stringify(
      {
        source: PACKAGE,
        sha256,
        converter: CONVERTER_VERSION,
        layout: 'NCHW',
        inputs: made.inputs,
        outputs: made.outputs,
      },
      null,
      2,
    ),
  );
  return { path, inputs: made.inputs, outputs: made.outputs };
}

async function writeWhole(path: string, content: Uint8Array | string): Promise<void> {
  // Threads of one process may write the same at once.
  const partial = `${path}.${randomUUID()}.partial`;
  await writeFile(partial, content);
  await rename(partial, path);
}
