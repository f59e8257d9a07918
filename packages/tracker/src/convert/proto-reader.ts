/** One field of a Protocol Buffers message (https://protobuf.dev/programming-guides/encoding). */
export interface ProtoField {
  number: number;
  /** Whole number, or the bits of a 32-bit value. */
  value: number;
  /** Content of a length-delimited field. */
  bytes: Uint8Array | null;
}

/** Reads the fields of a message. @throws Error when it is cut off or holds a kind of field we don't know. */
export function readProto(message: Uint8Array): ProtoField[] {
  const view = new DataView(message.buffer, message.byteOffset, message.byteLength);
  const fields: ProtoField[] = [];
  let at = 0;
  const varint = (): number => {
    let value = 0;
    for (let shift = 1; ; shift *= 128) {
      if (at >= message.length) throw new Error('The message is cut off.');
      const byte = message[at++];
      value += (byte & 127) * shift;
      if (byte < 128) return value;
    }
  };
  while (at < message.length) {
    const tag = varint();
    const kind = tag & 7;
    const field: ProtoField = { number: tag >> 3, value: 0, bytes: null };
    if (kind === 0) field.value = varint();
    else if (kind === 5) {
      field.value = view.getUint32(at, true);
      at += 4;
    } else if (kind === 2) {
      const length = varint();
      if (at + length > message.length) throw new Error('The message is cut off.');
      field.bytes = message.subarray(at, at + length);
      at += length;
    } else throw new Error(`The message holds a field of the unknown kind ${kind}.`);
    fields.push(field);
  }
  return fields;
}

/** All 32-bit floats of a repeated field, packed or single. */
export function protoFloats(fields: readonly ProtoField[], number: number): number[] {
  return fields
    .filter((field) => field.number === number)
    .flatMap(({ value, bytes }) => {
      const view = bytes
        ? new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
        : new DataView(Uint32Array.of(value).buffer);
      return Array.from({ length: view.byteLength / 4 }, (_, i) => view.getFloat32(i * 4, true));
    });
}
