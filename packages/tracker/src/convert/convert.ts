import { foldConstants } from './constants';
import { EMITTERS, planarShape, tensorOf, type Context } from './emit';
import { OnnxGraph } from './onnx';
import { readTflite, type Network, type Operator } from './tflite';

/** Raise this when the converter writes something else than before; cached networks are made anew. */
export const CONVERTER_VERSION = 1;

export interface NetworkPort {
  name: string;
  /** As stored in the ONNX file: pictures are planar, [1, channels, rows, columns]. */
  shape: number[];
}

export interface ConvertedNetwork {
  onnx: Uint8Array;
  inputs: NetworkPort[];
  outputs: NetworkPort[];
}

/**
 * Converts a TFLite network to ONNX and leaves out all that the wanted outputs don't need.
 * @param wanted indices of TFLite tensors to give out, in this order.
 * @param inputs indices of tensors that are fed from outside; the network's own if left out.
 * @throws Error naming operator and tensor when something can't be converted.
 */
export function convertNetwork(
  tflite: Uint8Array,
  wanted: readonly number[],
  inputs?: readonly number[],
): ConvertedNetwork {
  const network = readTflite(tflite);
  const entries = inputs ?? network.inputs;
  const constants = foldConstants(network);
  const operators = neededOperators(network, wanted, entries, constants);
  const context: Context = {
    network,
    graph: new OnnxGraph(),
    constants,
    names: new Map(),
    foldedPads: foldablePads(network, operators),
  };
  const port = (index: number, name: string): NetworkPort => ({
    name,
    shape: planarShape(tensorOf(context, index).shape),
  });
  const inputPorts = entries.map((index, i) => port(index, `in${i}`));
  entries.forEach((index, i) => {
    context.names.set(index, inputPorts[i].name);
    context.graph.input(inputPorts[i].name, inputPorts[i].shape);
  });
  for (const op of operators) {
    if (context.foldedPads.has(op.outputs[0])) continue;
    const emit = EMITTERS[op.kind];
    if (!emit)
      throw new Error(`Operator ${op.kind} (tensor "${tensorOf(context, op.outputs[0]).name}") can't be converted.`);
    context.names.set(op.outputs[0], emit(context, op));
  }
  const outputPorts = wanted.map((index, i) => {
    const made = context.names.get(index);
    if (!made) throw new Error(`No operator makes the wanted tensor ${index}.`);
    const out = port(index, `out${i}`);
    context.graph.node('Identity', [made], {}, out.name);
    context.graph.output(out.name, out.shape);
    return out;
  });
  return { onnx: context.graph.finish(), inputs: inputPorts, outputs: outputPorts };
}

function neededOperators(
  network: Network,
  wanted: readonly number[],
  entries: readonly number[],
  constants: Map<number, Float32Array>,
): Operator[] {
  const needed = new Set(wanted);
  const chosen: Operator[] = [];
  for (const op of [...network.operators].reverse()) {
    if (
      !op.outputs.some((index) => needed.has(index)) ||
      constants.has(op.outputs[0]) ||
      op.outputs.some((index) => entries.includes(index))
    )
      continue;
    chosen.push(op);
    for (const index of op.inputs) if (index >= 0) needed.add(index);
  }
  return chosen.reverse();
}

/** PADs of rows and columns whose only readers are convolutions without padding of their own. */
function foldablePads(network: Network, operators: readonly Operator[]): Map<number, Operator> {
  const folded = new Map<number, Operator>();
  for (const op of operators) {
    if (op.kind !== 'PAD') continue;
    const amounts = network.tensors[op.inputs[1]].data;
    const ints = amounts ? Array.from(new Int32Array(amounts.slice().buffer)) : [];
    const readers = operators.filter((other) => other.inputs.includes(op.outputs[0]));
    const spatial = ints.length === 8 && [0, 1, 6, 7].every((i) => ints[i] === 0) && ints.some((value) => value > 0);
    const conv = readers.every((reader) => /CONV_2D$/.test(reader.kind) && reader.options?.int8(0) === 1);
    if (spatial && conv && readers.length > 0) folded.set(op.outputs[0], op);
  }
  return folded;
}
