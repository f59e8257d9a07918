import { ProtoWriter } from './protobuf';

/** A graph in the open ONNX format (opset 13), as far as our networks need it. */
export type Attribute = number | string | number[];

export class OnnxGraph {
  private readonly nodes: ProtoWriter[] = [];
  private readonly constants: ProtoWriter[] = [];
  private readonly inputs: ProtoWriter[] = [];
  private readonly outputs: ProtoWriter[] = [];
  private count = 0;

  /** Adds a node with one output and returns the output's name. */
  node(
    kind: string,
    inputs: readonly string[],
    attributes: Record<string, Attribute> = {},
    output = `v${this.count++}`,
  ): string {
    const node = new ProtoWriter();
    for (const input of inputs) node.text(1, input);
    node.text(2, output).text(3, output).text(4, kind);
    for (const [name, value] of Object.entries(attributes)) {
      const attribute = new ProtoWriter().text(1, name);
      if (typeof value === 'number') attribute.int(3, value).int(20, 2);
      else if (typeof value === 'string') attribute.text(4, value).int(20, 3);
      else {
        for (const item of value) attribute.int(8, item);
        attribute.int(20, 7);
      }
      node.message(5, attribute);
    }
    this.nodes.push(node);
    return output;
  }

  floats(values: Float32Array, shape: readonly number[]): string {
    return this.constant(new Uint8Array(values.buffer, values.byteOffset, values.byteLength), shape, 1);
  }

  ints(values: readonly number[]): string {
    return this.constant(new Uint8Array(BigInt64Array.from(values, BigInt).buffer), [values.length], 7);
  }

  private constant(raw: Uint8Array, shape: readonly number[], type: number): string {
    const name = `c${this.count++}`;
    const tensor = new ProtoWriter();
    for (const size of shape) tensor.int(1, size);
    this.constants.push(tensor.int(2, type).text(8, name).bytes(9, raw));
    return name;
  }

  input(name: string, shape: readonly number[]): void {
    this.inputs.push(valueInfo(name, shape));
  }

  output(name: string, shape: readonly number[]): void {
    this.outputs.push(valueInfo(name, shape));
  }

  finish(): Uint8Array {
    const graph = new ProtoWriter();
    for (const node of this.nodes) graph.message(1, node);
    graph.text(2, 'network');
    for (const tensor of this.constants) graph.message(5, tensor);
    for (const value of this.inputs) graph.message(11, value);
    for (const value of this.outputs) graph.message(12, value);
    const opset = new ProtoWriter().text(1, '').int(2, 13);
    return new ProtoWriter().int(1, 8).text(2, 'merry-shadow').message(7, graph).message(8, opset).finish();
  }
}

function valueInfo(name: string, shape: readonly number[]): ProtoWriter {
  const dimensions = new ProtoWriter();
  for (const size of shape) dimensions.message(1, new ProtoWriter().int(1, size));
  const tensor = new ProtoWriter().int(1, 1).message(2, dimensions);
  return new ProtoWriter().text(1, name).message(2, new ProtoWriter().message(1, tensor));
}
