import { TestEnvironment } from 'jest-environment-node';

/**
 * Jest runs tests in a realm of their own; ONNX Runtime's native part knows typed arrays of the
 * outer realm only. This environment gives tests the outer ones.
 */
export default class OuterTypedArrays extends TestEnvironment {
  async setup() {
    await super.setup();
    for (const name of [
      'ArrayBuffer',
      'SharedArrayBuffer',
      'DataView',
      'Float32Array',
      'Float64Array',
      'Int8Array',
      'Uint8Array',
      'Uint8ClampedArray',
      'Int16Array',
      'Uint16Array',
      'Int32Array',
      'Uint32Array',
      'BigInt64Array',
      'BigUint64Array',
    ])
      this.global[name] = globalThis[name];
  }
}
