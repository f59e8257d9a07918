import { describe, expect, it } from '@jest/globals';
import { columnsFromBytes, columnsToBytes } from './column-bytes';

const columns = [
  { name: 'places', width: 3, data: Float32Array.of(1, 2, 3, 4, 5, 6) },
  { name: 'sure', width: 1, data: Float32Array.of(0.25, NaN) },
];
const header = { frames: 2, note: 'Käpt’n ⚓' };
const bytes = columnsToBytes('TEST', header, columns);

describe('columns as bytes', () => {
  it('come back with their header, whatever letters it holds', () => {
    const read = columnsFromBytes('TEST', 'things', bytes);
    expect(read.header).toMatchObject(header);
    expect(read.columns).toEqual(columns);
  });

  it('begin with their kind, and their numbers lie on multiples of four', () => {
    expect(new TextDecoder().decode(bytes.subarray(0, 4))).toBe('TEST');
    expect(new DataView(bytes.buffer).getUint32(4, true) % 4).toBe(0);
    expect(bytes.length % 4).toBe(0);
  });

  it('are read from the middle of other bytes, and are a copy', () => {
    const around = new Uint8Array(bytes.length + 7);
    around.set(bytes, 3);
    const read = columnsFromBytes('TEST', 'things', around.subarray(3, 3 + bytes.length));
    around.fill(0);
    expect(read.columns[0].data).toEqual(columns[0].data);
  });

  it('hold takes without frames', () => {
    const none = columnsToBytes('TEST', { frames: 0 }, [{ name: 'places', width: 3, data: new Float32Array() }]);
    expect(columnsFromBytes('TEST', 'things', none).columns[0].data).toHaveLength(0);
  });

  it('are refused by name when they are of another kind, empty or cut off anywhere', () => {
    expect(() => columnsFromBytes('ELSE', 'other things', bytes)).toThrow('These bytes are no other things.');
    expect(() => columnsFromBytes('TEST', 'things', new Uint8Array())).toThrow('no things');
    for (const length of [9, 20, bytes.length - 4])
      expect(() => columnsFromBytes('TEST', 'things', bytes.subarray(0, length))).toThrow('The things are cut off.');
  });
});
