/** Writes Protocol Buffers wire format (https://protobuf.dev/programming-guides/encoding). */
export class ProtoWriter {
  private readonly chunks: Uint8Array[] = [];
  private size = 0;

  private push(bytes: Uint8Array): void {
    this.chunks.push(bytes);
    this.size += bytes.length;
  }

  private varint(value: number): void {
    const out: number[] = [];
    let rest = BigInt.asUintN(64, BigInt(value));
    while (rest > 127n) {
      out.push(Number(rest & 127n) | 128);
      rest >>= 7n;
    }
    out.push(Number(rest));
    this.push(Uint8Array.from(out));
  }

  int(field: number, value: number): this {
    this.varint(field << 3);
    this.varint(value);
    return this;
  }

  bytes(field: number, value: Uint8Array): this {
    this.varint((field << 3) | 2);
    this.varint(value.length);
    this.push(value);
    return this;
  }

  text(field: number, value: string): this {
    return this.bytes(field, new TextEncoder().encode(value));
  }

  message(field: number, value: ProtoWriter): this {
    return this.bytes(field, value.finish());
  }

  finish(): Uint8Array {
    const out = new Uint8Array(this.size);
    let at = 0;
    for (const chunk of this.chunks) {
      out.set(chunk, at);
      at += chunk.length;
    }
    return out;
  }
}
