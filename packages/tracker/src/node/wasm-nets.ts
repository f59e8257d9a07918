import { readFile } from 'node:fs/promises';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { runInThisContext } from 'node:vm';
import { cutTflite } from '../convert/cut-tflite';
import type { Net, NetName } from '../runtime/net';
import { openWasmNet, type WasmRuntime } from '../runtime/wasm-net';
import { readSource, SOURCES } from './networks';

/** Folder of the wasm runtime's files. */
export function wasmFolder(): string {
  return join(dirname(createRequire(import.meta.url).resolve('@litertjs/core')), '../wasm');
}

/** A network cut to what we need, as the wasm runtime reads it. */
export async function cutNetwork(name: NetName): Promise<Uint8Array> {
  return cutTflite(await readSource(name), SOURCES[name].outputs, SOURCES[name].inputs);
}

let loading: Promise<WasmRuntime> | null = null;

/** Loads the wasm runtime in Node.js, which it takes for a web worker: small stand-ins see to that. */
function loadRuntime(): Promise<WasmRuntime> {
  loading ??= (async () => {
    const folder = wasmFolder();
    // Node.js 20 knows no relaxed SIMD; the compatible build does without.
    const file = 'litert_wasm_compat_internal';
    const scope = globalThis as unknown as Record<string, unknown>;
    scope.self ??= globalThis;
    scope.navigator ??= { gpu: { requestAdapter: async () => null } };
    scope.require ??= createRequire(import.meta.url);
    scope.__filename ??= join(folder, `${file}.js`);
    scope.__dirname ??= folder;
    scope.importScripts = (path: string): void => void runInThisContext(readFileSync(path, 'utf8'), { filename: path });
    scope.Module = {
      wasmBinary: await readFile(join(folder, `${file}.wasm`)),
      locateFile: (name: string) => join(folder, name),
      print: () => undefined,
      printErr: () => undefined,
    };
    const { loadLiteRt, Tensor } = await import('@litertjs/core');
    return { litert: await loadLiteRt(join(folder, `${file}.js`)), Tensor };
  })();
  return loading;
}

/** Opens one network on the wasm runtime: slower than the native one, but it runs anywhere. */
export async function openNodeWasmNet(name: NetName): Promise<Net> {
  return openWasmNet(await loadRuntime(), await cutNetwork(name));
}
