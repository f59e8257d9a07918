/**
 * Cuts a TFLite network down to what some outputs need, by patching the file itself: its lists of
 * inputs, outputs and operators. Runtimes that read TFLite then run the part without the rest, and
 * never meet operators of the rest that they don't know.
 *
 * Lists are written in place, or behind the end of the file where they have grown; the entries of the
 * list of operators are offsets from their own place and are counted anew.
 */
import { readTflite } from './tflite';

const GRAPHS = 2;
const INPUTS = 1;
const OUTPUTS = 2;
const OPERATORS = 3;

/**
 * @param inputs tensors that are fed from outside; the network's own if left out.
 */
export function cutTflite(tflite: Uint8Array, outputs: readonly number[], inputs?: readonly number[]): Uint8Array {
  const network = readTflite(tflite);
  const entries = inputs ?? network.inputs;
  const needed = new Set(outputs);
  const kept: number[] = [];
  for (let i = network.operators.length - 1; i >= 0; i--) {
    const op = network.operators[i];
    if (!op.outputs.some((index) => needed.has(index)) || op.outputs.some((index) => entries.includes(index))) continue;
    kept.unshift(i);
    for (const index of op.inputs) needed.add(index);
  }
  const bytes = new Uint8Array(Math.ceil(tflite.length / 4) * 4 + 8 + 4 * (outputs.length + entries.length));
  bytes.set(tflite);
  let end = Math.ceil(tflite.length / 4) * 4;
  const view = new DataView(bytes.buffer);
  const root = view.getUint32(0, true);
  const graphs = vectorOf(view, root, GRAPHS);
  const graph = graphs.start + view.getUint32(graphs.start, true);
  const list = vectorOf(view, graph, OPERATORS);
  const targets = kept.map((i) => list.start + 4 * i + view.getUint32(list.start + 4 * i, true));
  targets.forEach((target, i) => view.setUint32(list.start + 4 * i, target - (list.start + 4 * i), true));
  view.setUint32(list.start - 4, kept.length, true);
  for (const [field, indices] of [
    [INPUTS, entries],
    [OUTPUTS, outputs],
  ] as const) {
    let { start } = vectorOf(view, graph, field);
    if (indices.length > vectorOf(view, graph, field).length) {
      start = end + 4;
      view.setUint32(vectorOf(view, graph, field).at, end - vectorOf(view, graph, field).at, true);
      end = start + 4 * indices.length;
    }
    view.setUint32(start - 4, indices.length, true);
    indices.forEach((index, i) => view.setInt32(start + 4 * i, index, true));
  }
  return bytes;
}

/** A list: where the offset to it stands, its first entry, its length. */
interface Vector {
  at: number;
  start: number;
  length: number;
}

function vectorOf(view: DataView, table: number, field: number): Vector {
  const vtable = table - view.getInt32(table, true);
  const at = table + view.getUint16(vtable + 4 + field * 2, true);
  const start = at + view.getUint32(at, true);
  return { at, start: start + 4, length: view.getUint32(start, true) };
}
