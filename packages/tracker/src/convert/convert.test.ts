import { readSource, SOURCES } from '../node/networks';
import { cutTflite } from './cut-tflite';
import { ProtoWriter } from './protobuf';
import { protoFloats, readProto } from './proto-reader';
import { readTflite } from './tflite';

describe('cutting a network', () => {
  it('leaves out what the outputs do not need, and the operators that nobody knows', async () => {
    const whole = readTflite(await readSource('faceMarks'));
    const main = readTflite(cutTflite(await readSource('faceMarks'), SOURCES.faceMarks.outputs));
    expect(main.outputs).toEqual(SOURCES.faceMarks.outputs);
    expect(main.inputs).toEqual(whole.inputs);
    expect(main.operators.length).toBeLessThan(whole.operators.length / 2);
    expect(main.operators.some((op) => /[a-z]/.test(op.kind))).toBe(false);
  });

  it('feeds a branch from inside', async () => {
    const lips = readTflite(cutTflite(await readSource('faceLips'), [697], [199]));
    expect(lips.inputs).toEqual([199]);
    expect(lips.outputs).toEqual([697]);
    const made = new Set([...lips.inputs, ...lips.operators.flatMap((op) => op.outputs)]);
    for (const op of lips.operators)
      for (const index of op.inputs)
        expect(index < 0 || made.has(index) || lips.tensors[index].data !== null).toBe(true);
  });

  it('keeps the order of the operators, and lists that grow', async () => {
    const source = await readSource('faceCheck');
    const whole = readTflite(source);
    const middle = whole.operators[10].outputs[0];
    const cut = readTflite(cutTflite(source, [...whole.outputs, middle]));
    expect(cut.outputs).toEqual([...whole.outputs, middle]);
    expect(cut.operators.map((op) => op.outputs[0])).toEqual(whole.operators.map((op) => op.outputs[0]));
  });

  it('does not touch the file it was given', async () => {
    const source = await readSource('faceLips');
    const before = source.slice();
    cutTflite(source, [697], [199]);
    expect(Buffer.compare(source, before)).toBe(0);
  });
});

describe('protocol buffers', () => {
  it('are read as they were written', () => {
    const inner = new ProtoWriter().int(1, 300).text(2, 'lantern');
    const fields = readProto(new ProtoWriter().message(4, inner).int(7, 1).finish());
    expect(fields.map((field) => field.number)).toEqual([4, 7]);
    const [number, name] = readProto(fields[0].bytes as Uint8Array);
    expect(number.value).toBe(300);
    expect(new TextDecoder().decode(name.bytes as Uint8Array)).toBe('lantern');
  });

  it('give floats, packed or one by one', () => {
    const packed = new Uint8Array(new Float32Array([1.5, -2]).buffer);
    expect(protoFloats(readProto(new ProtoWriter().bytes(3, packed).finish()), 3)).toEqual([1.5, -2]);
    const single = Uint8Array.of((3 << 3) | 5, ...new Uint8Array(new Float32Array([0.25]).buffer));
    expect(protoFloats(readProto(single), 3)).toEqual([0.25]);
  });

  it('say when they are cut off or strange', () => {
    const whole = new ProtoWriter().text(2, 'lantern').finish();
    expect(() => readProto(whole.subarray(0, 5))).toThrow('cut off');
    expect(() => readProto(Uint8Array.of(0x80))).toThrow('cut off');
    expect(() => readProto(Uint8Array.of((1 << 3) | 3, 0))).toThrow('unknown kind');
  });
});
