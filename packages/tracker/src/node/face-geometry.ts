import type { FaceGeometry } from '@merry-shadow/core/face/head-turn';
import { protoFloats, readProto } from '../convert/proto-reader';
import { readPinned } from './networks';

const SOURCE = {
  file: 'holistic_solution_packed_assets.data',
  from: 229032,
  until: 248408,
  sha256: 'bdbcda96dfcb7da883da124aaa2c55dee49770d934f0fcc71747f8c21bdc75b4',
};
/** A corner of the mesh: place (3) and picture coordinates (2). */
const CORNER = 5;

/** Reads the average face and the marks that tell of the head's turn. */
export async function readFaceGeometry(): Promise<FaceGeometry> {
  const fields = readProto(await readPinned('The face geometry', SOURCE));
  const mesh = fields.find((field) => field.number === 1)?.bytes;
  if (!mesh) throw new Error('The face geometry holds no mesh.');
  const corners = protoFloats(readProto(mesh), 3);
  const vertices = corners.filter((_, i) => i % CORNER < 3);
  const basis = fields
    .filter((field) => field.number === 2 && field.bytes)
    .map(({ bytes }): [number, number] => {
      const entry = readProto(bytes as Uint8Array);
      return [entry.find((field) => field.number === 1)?.value ?? 0, protoFloats(entry, 2)[0]];
    });
  return { vertices, basis };
}
