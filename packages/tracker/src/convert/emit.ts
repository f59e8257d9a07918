import { constantInts } from './constants';
import type { OnnxGraph } from './onnx';
import type { Network, Operator, Tensor } from './tflite';

/**
 * How each operator is written. Four-dimensional tensors change from NHWC to NCHW; the others keep
 * their order. What was found out about each is told in `../shared/TRACKING.md`, "From TFLite to ONNX".
 */
export interface Context {
  network: Network;
  graph: OnnxGraph;
  constants: Map<number, Float32Array>;
  /** ONNX name of each tensor that has been written. */
  names: Map<number, string>;
  /** PAD operators that have been taken into a convolution, by output tensor. */
  foldedPads: Map<number, Operator>;
}

const AXES = [0, 2, 3, 1];

export function tensorOf(context: Context, index: number): Tensor {
  return context.network.tensors[index];
}

/** Shape as it stands in the ONNX file. */
export function planarShape(shape: readonly number[]): number[] {
  return shape.length === 4 ? [shape[0], shape[3], shape[1], shape[2]] : [...shape];
}

/** Reorders the values of an NHWC or OHWI constant to NCHW or OIHW. */
function toPlanar(values: Float32Array, shape: readonly number[]): Float32Array {
  const [n, h, w, c] = shape;
  const out = new Float32Array(values.length);
  for (let i = 0; i < n; i++)
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++)
        for (let k = 0; k < c; k++) out[((i * c + k) * h + y) * w + x] = values[((i * h + y) * w + x) * c + k];
  return out;
}

function constant(context: Context, index: number): Float32Array {
  const values = context.constants.get(index);
  if (!values) throw new Error(`Tensor "${tensorOf(context, index).name}" must be constant.`);
  return values;
}

/** The ONNX name of an operand; constants are written as they are met. @param rank of the other operand. */
function operand(context: Context, index: number, rank = 0): string {
  const known = context.names.get(index);
  if (known) return known;
  const values = constant(context, index);
  const { shape } = tensorOf(context, index);
  if (shape.length === 4) return context.graph.floats(toPlanar(values, shape), planarShape(shape));
  if (rank === 4 && shape.length >= 1) {
    const channels = shape[shape.length - 1];
    if (channels !== values.length)
      throw new Error(`Constant "${tensorOf(context, index).name}" has a shape that can't be spread over a picture.`);
    return context.graph.floats(values, [channels, 1, 1]);
  }
  return context.graph.floats(values, shape);
}

function activation(context: Context, op: Operator, kind: number, value: string): string {
  if (kind === 0) return value;
  if (kind === 1) return context.graph.node('Relu', [value]);
  if (kind === 3)
    return context.graph.node('Clip', [
      value,
      context.graph.floats(Float32Array.of(0), []),
      context.graph.floats(Float32Array.of(6), []),
    ]);
  throw new Error(`${op.kind} "${tensorOf(context, op.outputs[0]).name}": activation ${kind} is not known.`);
}

/** [top, left, bottom, right] for SAME or VALID padding. */
function explicitPads(
  padding: number,
  input: number[],
  output: number[],
  kernel: number[],
  stride: number[],
  dilation: number[],
): number[] {
  if (padding === 1) return [0, 0, 0, 0];
  const total = [0, 1].map((i) =>
    Math.max((output[i] - 1) * stride[i] + (kernel[i] - 1) * dilation[i] + 1 - input[i], 0),
  );
  return [total[0] >> 1, total[1] >> 1, total[0] - (total[0] >> 1), total[1] - (total[1] >> 1)];
}

function convolution(context: Context, op: Operator, depthwise: boolean): string {
  const options = op.options;
  if (!options) throw new Error(`${op.kind} without options.`);
  const weightShape = tensorOf(context, op.inputs[1]).shape;
  const output = tensorOf(context, op.outputs[0]).shape;
  const [dilationX, dilationY] = depthwise
    ? [options.int32(5, 1), options.int32(6, 1)]
    : [options.int32(4, 1), options.int32(5, 1)];
  const stride = [options.int32(2), options.int32(1)];
  const kernel = [weightShape[1], weightShape[2]];
  let input = op.inputs[0];
  const pad = context.foldedPads.get(input);
  let pads: number[];
  if (pad) {
    const amounts = constantInts(tensorOf(context, pad.inputs[1]));
    pads = [amounts[2], amounts[4], amounts[3], amounts[5]];
    input = pad.inputs[0];
  } else {
    const shape = tensorOf(context, input).shape;
    pads = explicitPads(options.int8(0), shape.slice(1, 3), output.slice(1, 3), kernel, stride, [dilationY, dilationX]);
  }
  const values = constant(context, op.inputs[1]);
  const channels = weightShape[3];
  const weights = context.graph.floats(
    toPlanar(values, weightShape),
    depthwise ? [channels, 1, ...kernel] : planarShape(weightShape),
  );
  const inputs = [operand(context, input), weights];
  if (op.inputs.length > 2 && op.inputs[2] >= 0)
    inputs.push(context.graph.floats(constant(context, op.inputs[2]), [output[3]]));
  const value = context.graph.node('Conv', inputs, {
    kernel_shape: kernel,
    strides: stride,
    dilations: [dilationY, dilationX],
    pads,
    group: depthwise ? tensorOf(context, input).shape[3] : 1,
  });
  return activation(context, op, options.int8(depthwise ? 4 : 3), value);
}

function arithmetic(kind: 'Add' | 'Mul' | 'Sub') {
  return (context: Context, op: Operator): string => {
    const rank = tensorOf(context, op.outputs[0]).shape.length;
    const value = context.graph.node(
      kind,
      op.inputs.map((index) => operand(context, index, rank)),
    );
    return activation(context, op, op.options?.int8(0) ?? 0, value);
  };
}

/** x·slope + relu(x)·(1 − slope) as depthwise products, which keep the fast channel layout. */
function prelu(context: Context, op: Operator): string {
  const slope = constant(context, op.inputs[1]);
  const channels = slope.length;
  const x = operand(context, op.inputs[0]);
  const product = (value: string, factors: Float32Array): string =>
    context.graph.node('Conv', [value, context.graph.floats(factors, [channels, 1, 1, 1])], {
      kernel_shape: [1, 1],
      group: channels,
    });
  const positive = context.graph.node('Relu', [x]);
  return context.graph.node('Add', [
    product(x, slope),
    product(
      positive,
      slope.map((value) => 1 - value),
    ),
  ]);
}

function pad(context: Context, op: Operator): string {
  const amounts = constantInts(tensorOf(context, op.inputs[1]));
  const x = operand(context, op.inputs[0]);
  if (amounts.slice(0, 6).every((amount) => amount === 0)) {
    // Extra channels of zeros are an exact 1 × 1 convolution with the identity.
    const from = tensorOf(context, op.inputs[0]).shape[3];
    const to = tensorOf(context, op.outputs[0]).shape[3];
    const identity = new Float32Array(from * to);
    for (let c = 0; c < from; c++) identity[(c + amounts[6]) * from + c] = 1;
    return context.graph.node('Conv', [x, context.graph.floats(identity, [to, from, 1, 1])], { kernel_shape: [1, 1] });
  }
  const before = [0, 6, 2, 4].map((i) => amounts[i]);
  const after = [1, 7, 3, 5].map((i) => amounts[i]);
  return context.graph.node('Pad', [x, context.graph.ints([...before, ...after])]);
}

function maxPool(context: Context, op: Operator): string {
  const options = op.options;
  if (!options) throw new Error('MAX_POOL_2D without options.');
  const kernel = [options.int32(4), options.int32(3)];
  const stride = [options.int32(2), options.int32(1)];
  const input = tensorOf(context, op.inputs[0]).shape.slice(1, 3);
  const output = tensorOf(context, op.outputs[0]).shape.slice(1, 3);
  return context.graph.node('MaxPool', [operand(context, op.inputs[0])], {
    kernel_shape: kernel,
    strides: stride,
    pads: explicitPads(options.int8(0), input, output, kernel, stride, [1, 1]),
  });
}

function resize(context: Context, op: Operator): string {
  if (op.options?.int8(2) || !op.options?.int8(3))
    throw new Error(`RESIZE_BILINEAR "${tensorOf(context, op.outputs[0]).name}": only half-pixel centres are known.`);
  const from = tensorOf(context, op.inputs[0]).shape;
  const to = tensorOf(context, op.outputs[0]).shape;
  const scales = context.graph.floats(Float32Array.of(1, 1, to[1] / from[1], to[2] / from[2]), [4]);
  return context.graph.node('Resize', [operand(context, op.inputs[0]), '', scales], {
    mode: 'linear',
    coordinate_transformation_mode: 'half_pixel',
  });
}

function reshape(context: Context, op: Operator): string {
  const from = tensorOf(context, op.inputs[0]).shape;
  const to = tensorOf(context, op.outputs[0]).shape;
  if (to.length === 4)
    throw new Error(`RESHAPE "${tensorOf(context, op.outputs[0]).name}": reshaping to four dimensions is not known.`);
  let x = operand(context, op.inputs[0]);
  const plain = from.length !== 4 || from[1] * from[2] === 1 || from[3] === 1;
  if (!plain) x = context.graph.node('Transpose', [x], { perm: [0, 2, 3, 1] });
  return context.graph.node('Reshape', [x, context.graph.ints(to)]);
}

function concatenate(context: Context, op: Operator): string {
  const rank = tensorOf(context, op.outputs[0]).shape.length;
  const axis = ((op.options?.int32(0) ?? 0) + rank) % rank;
  return context.graph.node(
    'Concat',
    op.inputs.map((index) => operand(context, index)),
    { axis: rank === 4 ? AXES[axis] : axis },
  );
}

function mean(context: Context, op: Operator): string {
  const axes = constantInts(tensorOf(context, op.inputs[1]));
  if (axes.length !== 2 || axes[0] !== 1 || axes[1] !== 2)
    throw new Error('MEAN: only over rows and columns is known.');
  const value = context.graph.node('GlobalAveragePool', [operand(context, op.inputs[0])]);
  const to = tensorOf(context, op.outputs[0]).shape;
  return to.length === 4 ? value : context.graph.node('Reshape', [value, context.graph.ints(to)]);
}

function fullyConnected(context: Context, op: Operator): string {
  const inputs = [operand(context, op.inputs[0]), operand(context, op.inputs[1])];
  if (op.inputs.length > 2 && op.inputs[2] >= 0) inputs.push(operand(context, op.inputs[2]));
  return activation(context, op, op.options?.int8(0) ?? 0, context.graph.node('Gemm', inputs, { transB: 1 }));
}

function slice(context: Context, op: Operator): string {
  const from = tensorOf(context, op.inputs[0]).shape;
  const [begin, end, stride] = op.inputs.slice(1).map((index) => constantInts(tensorOf(context, index)));
  const [beginMask, endMask] = [op.options?.int32(0) ?? 0, op.options?.int32(1) ?? 0];
  const starts = begin.map((value, i) => (beginMask & (1 << i) ? 0 : value));
  const ends = end.map((value, i) => (endMask & (1 << i) ? from[i] : value));
  const axes = from.map((_, i) => (from.length === 4 ? AXES[i] : i));
  const { graph } = context;
  return graph.node('Slice', [
    operand(context, op.inputs[0]),
    graph.ints(starts),
    graph.ints(ends),
    graph.ints(axes),
    graph.ints(stride),
  ]);
}

const unary =
  (kind: string) =>
  (context: Context, op: Operator): string =>
    context.graph.node(kind, [operand(context, op.inputs[0])]);

/** One writer for each operator; what is not here can't be converted. */
export const EMITTERS: Record<string, (context: Context, op: Operator) => string> = {
  ADD: arithmetic('Add'),
  MUL: arithmetic('Mul'),
  SUB: arithmetic('Sub'),
  CONV_2D: (context, op) => convolution(context, op, false),
  DEPTHWISE_CONV_2D: (context, op) => convolution(context, op, true),
  DEPTH_TO_SPACE: (context, op) =>
    context.graph.node('DepthToSpace', [operand(context, op.inputs[0])], {
      blocksize: op.options?.int32(0) ?? 1,
      mode: 'DCR',
    }),
  CONCATENATION: concatenate,
  FULLY_CONNECTED: fullyConnected,
  LOGISTIC: unary('Sigmoid'),
  MAX_POOL_2D: maxPool,
  MEAN: mean,
  PAD: pad,
  PRELU: prelu,
  RELU: unary('Relu'),
  RESHAPE: reshape,
  RESIZE_BILINEAR: resize,
  STRIDED_SLICE: slice,
};
