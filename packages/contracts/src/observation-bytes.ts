import { z } from 'zod';
import { emptyObservations, observationColumns, type Observations } from '@merry-shadow/core/observe/observations';
import { columnsFromBytes, columnsToBytes } from './column-bytes';

const KIND = 'MSO2';
const Header = z.object({
  frames: z.number(),
  rate: z.number().positive(),
  width: z.number().positive(),
  height: z.number().positive(),
});

/** Observations as bytes; see column-bytes.ts. */
export function observationsToBytes(observations: Observations): Uint8Array {
  const { frames, rate, width, height } = observations;
  return columnsToBytes(KIND, { frames, rate, width, height } as { frames: number }, observationColumns(observations));
}

/** @throws Error when the bytes are no observations or are cut off. */
export function observationsFromBytes(bytes: Uint8Array): Observations {
  const { header, columns } = columnsFromBytes(KIND, 'observations', bytes);
  const { frames, rate, width, height } = Header.parse(header);
  const stored = new Map(columns.map((column) => [column.name, column]));
  const out = emptyObservations(frames, rate, width, height, {
    hands: stored.has('leftHand.marks'),
    face: stored.has('face.marks'),
    depth: stored.has('depth'),
  });
  for (const { name, width: values, data } of observationColumns(out)) {
    const column = stored.get(name);
    if (column?.width === values) data.set(column.data);
  }
  return out;
}
