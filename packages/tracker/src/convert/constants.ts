import type { FlatTable } from './flatbuffer';
import type { Network, Tensor } from './tflite';

/** IEEE 754 half precision to a number. */
function halfToNumber(bits: number): number {
  const sign = bits & 0x8000 ? -1 : 1;
  const exponent = (bits >> 10) & 0x1f;
  const fraction = bits & 0x3ff;
  if (exponent === 0) return sign * fraction * 2 ** -24;
  if (exponent === 31) return fraction ? NaN : sign * Infinity;
  return sign * (1 + fraction / 1024) * 2 ** (exponent - 15);
}

function halves(data: Uint8Array): Float32Array {
  const view = new DataView(data.buffer, data.byteOffset, data.byteLength);
  return Float32Array.from({ length: data.byteLength >> 1 }, (_, i) => halfToNumber(view.getUint16(i * 2, true)));
}

function floats(data: Uint8Array): Float32Array {
  return new Float32Array(data.slice().buffer);
}

/** Whole numbers of a constant tensor. */
export function constantInts(tensor: Tensor): number[] {
  if (!tensor.data || tensor.type !== 'INT32')
    throw new Error(`Tensor "${tensor.name}" must be a constant of whole numbers.`);
  return Array.from(new Int32Array(tensor.data.slice().buffer));
}

/** All constant values of a network as 32-bit floats, by tensor: stored, widened from 16 bits, or made dense. */
export function foldConstants(network: Network): Map<number, Float32Array> {
  const values = new Map<number, Float32Array>();
  network.tensors.forEach((tensor, index) => {
    if (!tensor.data || tensor.sparsity) return;
    if (tensor.type === 'FLOAT32') values.set(index, floats(tensor.data));
    if (tensor.type === 'FLOAT16') values.set(index, halves(tensor.data));
  });
  for (const op of network.operators) {
    if (op.kind === 'DENSIFY') {
      const tensor = network.tensors[op.inputs[0]];
      const table = tensor.sparsity;
      if (!tensor.data || !table) throw new Error(`DENSIFY of "${tensor.name}": the tensor has no sparse values.`);
      const stored = tensor.type === 'FLOAT16' ? halves(tensor.data) : floats(tensor.data);
      values.set(op.outputs[0], densify(stored, tensor, table));
    } else if (op.kind === 'DEQUANTIZE') {
      const value = values.get(op.inputs[0]);
      if (value) values.set(op.outputs[0], value);
    }
  }
  return values;
}

/** Spreads sparse values whose last dimension is stored as compressed rows and the others densely, in order. */
function densify(stored: Float32Array, tensor: Tensor, sparsity: FlatTable): Float32Array {
  const rank = tensor.shape.length;
  const order = sparsity.int32s(0);
  const dimensions = sparsity.tables(2);
  const plain =
    dimensions.length === rank &&
    order.every((axis, i) => axis === i) &&
    dimensions.every((dim, i) => dim.int8(0) === (i === rank - 1 ? 1 : 0));
  if (!plain) throw new Error(`DENSIFY of "${tensor.name}": this way of storing sparse values is not known.`);
  const segments = indexVector(dimensions[rank - 1], 2);
  const indices = indexVector(dimensions[rank - 1], 4);
  const row = tensor.shape[rank - 1];
  const rows = tensor.shape.slice(0, -1).reduce((a, b) => a * b, 1);
  if (segments.length !== rows + 1 || segments[rows] !== stored.length || indices.length !== stored.length) {
    throw new Error(`DENSIFY of "${tensor.name}": the stored values don't add up.`);
  }
  const out = new Float32Array(rows * row);
  for (let r = 0; r < rows; r++)
    for (let i = segments[r]; i < segments[r + 1]; i++) out[r * row + indices[i]] = stored[i];
  return out;
}

/** A sparse index vector: 32, 16 or 8 bits wide, told by the union's type before it. */
function indexVector(dimension: FlatTable, typeField: number): number[] {
  const table = dimension.table(typeField + 1);
  const kind = dimension.uint8(typeField);
  if (!table) return [];
  if (kind === 1) return table.int32s(0);
  return kind === 2 ? table.uint16s(0) : Array.from(table.bytes(0));
}
