/** A head of a few words with the bytes that belong to it, as they pass through a socket or lie in a file. */
export interface FramedMessage {
  head: unknown;
  body: Uint8Array;
}

/** Bytes before head and body: the length of each, 32 bits, little-endian. */
const PREFIX = 8;
/** The longest that are taken: a head holds some numbers, a body one picture. */
const MOST_HEAD = 65_536;
const MOST_BODY = 64e6;

/** Writes a message: lengths of head and body, the head as JSON in UTF-8, the body as it is. */
export function frameMessage(head: unknown, body: Uint8Array = new Uint8Array()): Uint8Array {
  const text = new TextEncoder().encode(JSON.stringify(head));
  const out = new Uint8Array(PREFIX + text.length + body.length);
  const view = new DataView(out.buffer);
  view.setUint32(0, text.length, true);
  view.setUint32(4, body.length, true);
  out.set(text, PREFIX);
  out.set(body, PREFIX + text.length);
  return out;
}

/** Takes messages out of bytes that come in pieces. */
export class MessageReader {
  private pieces: Uint8Array[] = [];
  private held = 0;

  /**
   * @returns the messages that are whole now, in their order.
   * @throws Error when the bytes are no such messages.
   */
  add(piece: Uint8Array): FramedMessage[] {
    this.pieces.push(piece);
    this.held += piece.length;
    const out: FramedMessage[] = [];
    for (let next = this.next(); next; next = this.next()) out.push(next);
    return out;
  }

  private next(): FramedMessage | null {
    if (this.held < PREFIX) return null;
    const start = this.look(PREFIX);
    const view = new DataView(start.buffer, start.byteOffset);
    const [head, body] = [view.getUint32(0, true), view.getUint32(4, true)];
    if (head > MOST_HEAD || body > MOST_BODY) throw new Error('These are no messages of a depth camera.');
    const length = PREFIX + head + body;
    if (this.held < length) return null;
    const whole = this.look(length);
    const rest = this.joined().subarray(length);
    this.pieces = rest.length > 0 ? [rest] : [];
    this.held = rest.length;
    return {
      head: JSON.parse(new TextDecoder().decode(whole.subarray(PREFIX, PREFIX + head))) as unknown,
      body: whole.subarray(PREFIX + head, length),
    };
  }

  /** The first bytes, in one piece. */
  private look(length: number): Uint8Array {
    return (this.pieces[0].length >= length ? this.pieces[0] : this.joined()).subarray(0, length);
  }

  private joined(): Uint8Array {
    if (this.pieces.length > 1) {
      const all = new Uint8Array(this.held);
      let at = 0;
      for (const piece of this.pieces) {
        all.set(piece, at);
        at += piece.length;
      }
      this.pieces = [all];
    }
    return this.pieces[0];
  }
}
