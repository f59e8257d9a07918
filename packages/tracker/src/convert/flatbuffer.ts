/**
 * A bounds-checked reader of FlatBuffers (https://flatbuffers.dev/internals). Every read outside the
 * file throws, so a damaged network file can't be misread.
 */
export class FlatTable {
  constructor(
    private readonly view: DataView,
    private readonly at: number,
  ) {}

  static root(bytes: Uint8Array): FlatTable {
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    return new FlatTable(view, view.getUint32(0, true));
  }

  /** Place of a field's value, or 0 when the field is left out. */
  private field(index: number): number {
    const vtable = this.at - this.view.getInt32(this.at, true);
    const slot = 4 + index * 2;
    if (slot >= this.view.getUint16(vtable, true)) return 0;
    const offset = this.view.getUint16(vtable + slot, true);
    return offset === 0 ? 0 : this.at + offset;
  }

  int8(index: number, fallback = 0): number {
    const at = this.field(index);
    return at ? this.view.getInt8(at) : fallback;
  }

  uint8(index: number, fallback = 0): number {
    const at = this.field(index);
    return at ? this.view.getUint8(at) : fallback;
  }

  int32(index: number, fallback = 0): number {
    const at = this.field(index);
    return at ? this.view.getInt32(at, true) : fallback;
  }

  table(index: number): FlatTable | null {
    const at = this.field(index);
    return at ? new FlatTable(this.view, at + this.view.getUint32(at, true)) : null;
  }

  string(index: number): string {
    return new TextDecoder().decode(this.bytes(index));
  }

  private vector(index: number): { start: number; length: number } {
    const at = this.field(index);
    if (!at) return { start: 0, length: 0 };
    const start = at + this.view.getUint32(at, true);
    return { start: start + 4, length: this.view.getUint32(start, true) };
  }

  bytes(index: number): Uint8Array {
    const { start, length } = this.vector(index);
    if (start + length > this.view.byteLength) throw new RangeError('A vector runs past the end of the file.');
    return new Uint8Array(this.view.buffer, this.view.byteOffset + start, length);
  }

  int32s(index: number): number[] {
    const { start, length } = this.vector(index);
    return Array.from({ length }, (_, i) => this.view.getInt32(start + 4 * i, true));
  }

  uint16s(index: number): number[] {
    const { start, length } = this.vector(index);
    return Array.from({ length }, (_, i) => this.view.getUint16(start + 2 * i, true));
  }

  tables(index: number): FlatTable[] {
    const { start, length } = this.vector(index);
    return Array.from(
      { length },
      (_, i) => new FlatTable(this.view, start + 4 * i + this.view.getUint32(start + 4 * i, true)),
    );
  }
}
