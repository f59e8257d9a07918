import { InferenceSession, Tensor } from 'onnxruntime-node';
import type { Net, NetName } from '../runtime/net';
import { storedNetwork } from './networks';

/** Opens one network on the native ONNX Runtime, one thread, without spinning. */
export async function openNativeNet(name: NetName, cache: string): Promise<Net> {
  const { path, inputs, outputs } = await storedNetwork(name, cache);
  const session = await InferenceSession.create(path, {
    intraOpNumThreads: 1,
    interOpNumThreads: 1,
    executionMode: 'sequential',
    extra: { session: { intra_op: { allow_spinning: '0' } } },
  });
  return {
    planar: true,
    async run(...values) {
      const feeds = Object.fromEntries(
        inputs.map((port, i) => [port.name, new Tensor('float32', values[i], port.shape)]),
      );
      const results = await session.run(feeds);
      return outputs.map((port) => results[port.name].data as Float32Array);
    },
    close: () => session.release(),
  };
}
