import type { LiteRt, Tensor } from '@litertjs/core';
import type { Net } from './net';

/** The parts of the wasm runtime that are used: given from outside, since Node.js and browsers load it differently. */
export interface WasmRuntime {
  litert: Pick<LiteRt, 'loadAndCompile'>;
  Tensor: typeof Tensor;
}

/**
 * Makes a network ready on the wasm runtime, or on WebGPU where the browser has it. Pictures go in
 * pixel by pixel.
 * @param tflite a network whose operators the runtime knows (see `cutTflite`): with others it would
 *   give uninitialised memory instead of an error.
 */
export async function openWasmNet(
  runtime: WasmRuntime,
  tflite: Uint8Array,
  accelerator: 'wasm' | 'webgpu' = 'wasm',
): Promise<Net> {
  const model = await runtime.litert.loadAndCompile(tflite, { accelerator });
  const shapes = model.getInputDetails().map((detail) => Array.from(detail.shape));
  return {
    planar: false,
    async run(...inputs) {
      const tensors = inputs.map((values, i) => new runtime.Tensor(values, shapes[i]));
      const results = await model.run(tensors);
      const out: Float32Array[] = [];
      for (const result of results) {
        const here = result.accelerator === 'wasm' ? result : await result.moveTo('wasm');
        out.push(Float32Array.from(here.toTypedArray() as Float32Array));
        here.delete();
      }
      for (const tensor of tensors) tensor.delete();
      return out;
    },
    close: async () => model.delete(),
  };
}
