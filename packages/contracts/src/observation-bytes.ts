import { z } from 'zod';
import {
  emptyObservations,
  groupOf,
  OBSERVATION_GROUPS,
  observationColumns,
  type ObservationGroup,
  type Observations,
} from '@merry-shadow/core/observe/observations';
import { columnsFromBytes, columnsToBytes } from './column-bytes';

const KIND = 'MSO2';
/** Names of columns in older data, and what they are called now. */
const OLD_NAMES: Record<string, string> = { sway: 'cameraMotion' };
const Header = z.object({
  frames: z.number(),
  rate: z.number().positive(),
  width: z.number().positive(),
  height: z.number().positive(),
});

/** Observations as bytes; see column-bytes.ts. Marks of the face, most of all numbers, in quarter pixels. @param groups of columns; all if left out. */
export function observationsToBytes(
  observations: Observations,
  groups: readonly ObservationGroup[] = OBSERVATION_GROUPS,
): Uint8Array {
  const { frames, rate, width, height } = observations;
  const columns = observationColumns(observations)
    .filter(({ name }) => groups.includes(groupOf(name)))
    .map((column) => (column.name === 'face.marks' ? { ...column, quarters: true } : column));
  return columnsToBytes(KIND, { frames, rate, width, height } as { frames: number }, columns);
}

/** @throws Error when the bytes are no observations or are cut off. */
export const observationsFromBytes = (bytes: Uint8Array): Observations => joinObservationBytes([{ first: 0, bytes }]);

/** Bytes of some columns of some frames. */
export interface StoredChunk {
  /** First frame of the piece within the take. */
  first: number;
  bytes: Uint8Array;
}

/** Joins pieces, in any order, to observations: columns that no piece holds are left out, or empty where all observations have them. */
export function joinObservationBytes(pieces: readonly StoredChunk[]): Observations {
  const read = pieces.map(({ first, bytes }) => {
    const { header, columns } = columnsFromBytes(KIND, 'observations', bytes);
    return { first, columns, header: Header.parse(header) };
  });
  const frames = read.reduce((most, { first, header }) => Math.max(most, first + header.frames), 0);
  const { rate, width, height } = read[0]?.header ?? { rate: 30, width: 1, height: 1 };
  // Presences are stored with the body's columns: hands and face were captured if any column of theirs is there.
  const has = (part: string): boolean => read.some(({ columns }) => columns.some(({ name }) => name.startsWith(part)));
  const parts = { hands: has('leftHand.'), face: has('face.'), depth: has('depth') };
  const whole = emptyObservations(frames, rate, width, height, parts);
  const target = new Map(observationColumns(whole).map((column) => [column.name, column]));
  for (const { first, columns } of read)
    for (const { name, width: values, data } of columns) {
      const column = target.get(OLD_NAMES[name] ?? name);
      if (column?.width === values) column.data.set(data, first * values);
    }
  return whole;
}
