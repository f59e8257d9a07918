import { FlatTable } from './flatbuffer';

/** What of the TFLite schema (version 3) our networks use. */
export const TENSOR_TYPES = ['FLOAT32', 'FLOAT16', 'INT32', 'UINT8', 'INT64'] as const;
const OPERATORS: Record<number, string> = {
  0: 'ADD',
  1: 'AVERAGE_POOL_2D',
  2: 'CONCATENATION',
  3: 'CONV_2D',
  4: 'DEPTHWISE_CONV_2D',
  5: 'DEPTH_TO_SPACE',
  6: 'DEQUANTIZE',
  9: 'FULLY_CONNECTED',
  14: 'LOGISTIC',
  17: 'MAX_POOL_2D',
  18: 'MUL',
  19: 'RELU',
  21: 'RELU6',
  22: 'RESHAPE',
  23: 'RESIZE_BILINEAR',
  25: 'SOFTMAX',
  32: 'CUSTOM',
  34: 'PAD',
  40: 'MEAN',
  41: 'SUB',
  43: 'SQUEEZE',
  45: 'STRIDED_SLICE',
  54: 'PRELU',
  67: 'TRANSPOSE_CONV',
  124: 'DENSIFY',
};

export interface Tensor {
  name: string;
  shape: number[];
  type: (typeof TENSOR_TYPES)[number];
  /** Constant values as stored; null for a computed tensor. */
  data: Uint8Array | null;
  /** How sparse values are stored, or null. */
  sparsity: FlatTable | null;
}

export interface Operator {
  kind: string;
  inputs: number[];
  outputs: number[];
  options: FlatTable | null;
  custom: Uint8Array;
}

export interface Network {
  tensors: Tensor[];
  operators: Operator[];
  inputs: number[];
  outputs: number[];
}

/**
 * Reads a `.tflite` file.
 * @throws Error when it isn't one, or holds a tensor type we don't know.
 */
export function readTflite(bytes: Uint8Array): Network {
  if (bytes.length < 8 || new TextDecoder().decode(bytes.subarray(4, 8)) !== 'TFL3')
    throw new Error('This is no TFLite network.');
  const model = FlatTable.root(bytes);
  const codes = model.tables(1).map((code) => {
    const number = Math.max(code.int8(0), code.int32(3));
    return number === 32 ? code.string(1) : (OPERATORS[number] ?? `operator ${number}`);
  });
  const buffers = model.tables(4).map((buffer) => buffer.bytes(0));
  const graphs = model.tables(2);
  if (graphs.length !== 1) throw new Error(`The network has ${graphs.length} graphs; one is expected.`);
  const graph = graphs[0];
  const tensors = graph.tables(0).map((tensor): Tensor => {
    const type = TENSOR_TYPES[tensor.int8(1)];
    const name = tensor.string(3);
    if (!type) throw new Error(`Tensor "${name}" has the unknown type ${tensor.int8(1)}.`);
    const data = buffers[tensor.int32(2)];
    return {
      name,
      shape: tensor.int32s(0),
      type,
      data: data && data.length > 0 ? data : null,
      sparsity: tensor.table(6),
    };
  });
  const operators = graph.tables(3).map((op): Operator => ({
    kind: codes[op.int32(0)],
    inputs: op.int32s(1),
    outputs: op.int32s(2),
    options: op.table(4),
    custom: op.bytes(5),
  }));
  return { tensors, operators, inputs: graph.int32s(1), outputs: graph.int32s(2) };
}
