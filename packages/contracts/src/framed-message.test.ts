import { frameMessage, MessageReader, type FramedMessage } from './framed-message';

const read = (bytes: Uint8Array, step: number): FramedMessage[] => {
  const reader = new MessageReader();
  const out: FramedMessage[] = [];
  for (let at = 0; at < bytes.length; at += step) out.push(...reader.add(bytes.slice(at, at + step)));
  return out;
};

describe('messages in a stream', () => {
  const first = frameMessage({ type: 'hello', name: 'Lampe ☼' });
  const second = frameMessage(
    { type: 'depth', time: 0.5 },
    Uint8Array.from({ length: 300 }, (_, i) => i % 251),
  );
  const both = new Uint8Array([...first, ...second, ...first]);

  it.each([1, 7, 100, 10_000])('are taken out of pieces of %i bytes', (step) => {
    const messages = read(both, step);
    expect(messages.map(({ head }) => head)).toEqual([
      { type: 'hello', name: 'Lampe ☼' },
      { type: 'depth', time: 0.5 },
      { type: 'hello', name: 'Lampe ☼' },
    ]);
    expect(messages[1].body.length).toBe(300);
    expect(Array.from(messages[1].body.subarray(250, 253))).toEqual([250, 0, 1]);
  });

  it('keeps what is not whole yet', () => {
    expect(read(both.subarray(0, first.length + 20), 50)).toHaveLength(1);
  });

  it('refuses what speaks another language', () => {
    expect(() => read(new TextEncoder().encode('GET / HTTP/1.1\r\nHost: x\r\n\r\n'), 1000)).toThrow('no messages');
    expect(() => read(new Uint8Array([3, 0, 0, 0, 0, 0, 0, 0, 1, 2, 3]), 1000)).toThrow();
  });
});
