import { z } from 'zod';
import type { Skeleton } from '@merry-shadow/core/motion/skeleton';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import { columnsFromBytes, columnsToBytes } from './column-bytes';

const KIND = 'MSM1';
const triple = z.tuple([z.number(), z.number(), z.number()]);
const Header = z.object({
  frames: z.number().int().min(1),
  rate: z.number().positive(),
  joints: z.array(
    z.object({
      name: z.string(),
      parent: z.number().int(),
      offset: triple,
      tip: triple.optional(),
      rest: z.tuple([z.number(), z.number(), z.number(), z.number()]).optional(),
    }),
  ),
  body: z.custom<SolvedTake['body']>((value) => typeof value === 'object' && value !== null),
  turned: z.number().default(0),
  untold: z.number().default(0),
  floorDoubt: z.number().nullable().default(null),
  camera: z.custom<SolvedTake['camera']>((value) => typeof value === 'object' && value !== null),
  shots: z.custom<SolvedTake['shots']>((value) => Array.isArray(value)).optional(),
});

/** A solved take as bytes; see column-bytes.ts. */
export function solvedToBytes({
  motion,
  body,
  camera,
  shots,
  turned,
  untold,
  floorDoubt,
  bridged,
  unseen,
  contacts,
}: SolvedTake): Uint8Array {
  const { frames, rate, skeleton } = motion;
  const columns = [
    { name: 'rotations', width: skeleton.joints.length * 4, data: motion.rotations },
    { name: 'root', width: 3, data: motion.root },
    ...motion.curves.map(({ name, values }) => ({ name: `curve.${name}`, width: 1, data: values })),
    { name: 'bridged', width: 1, data: Float32Array.from(bridged) },
    ...Object.entries(unseen).map(([name, data]) => ({
      name: `unseen.${name}`,
      width: 1,
      data: Float32Array.from(data),
    })),
    ...Object.entries(contacts ?? {}).map(([name, data]) => ({
      name: `contact.${name}`,
      width: 1,
      data: Float32Array.from(data),
    })),
  ];
  const header = { frames, rate, joints: skeleton.joints, body, camera, shots, turned, untold, floorDoubt };
  return columnsToBytes(KIND, header, columns);
}

/** @throws Error when the bytes are no solved take or are cut off. */
export function solvedFromBytes(bytes: Uint8Array): SolvedTake {
  const { header, columns } = columnsFromBytes(KIND, 'columns of a motion', bytes);
  const { frames, rate, joints, body, camera, shots, turned, untold, floorDoubt } = Header.parse(header);
  const column = (name: string): Float32Array => {
    const found = columns.find((item) => item.name === name);
    if (!found) throw new Error(`The motion lacks its column "${name}".`);
    return found.data;
  };
  const skeleton: Skeleton = { joints };
  /** Columns whose names begin alike, by the rest of their names. */
  const columnsOf = (prefix: string): [string, Float32Array][] =>
    columns
      .filter(({ name }) => name.startsWith(prefix))
      .map(({ name, data }): [string, Float32Array] => [name.slice(prefix.length), data]);
  const resting = columnsOf('contact.');
  const curves = columnsOf('curve.').map(([name, values]) => ({ name, values }));
  return {
    motion: { skeleton, frames, rate, rotations: column('rotations'), root: column('root'), curves },
    body,
    camera,
    shots: shots ?? [{ from: 0, until: frames, camera }],
    turned,
    untold,
    floorDoubt,
    bridged: Uint8Array.from(column('bridged')),
    unseen: Object.fromEntries(columnsOf('unseen.').map(([name, data]) => [name, Uint8Array.from(data)])),
    contacts:
      resting.length === 0
        ? null
        : (Object.fromEntries(
            resting.map(([name, data]) => [name, Float64Array.from(data)]),
          ) as SolvedTake['contacts']),
  };
}
