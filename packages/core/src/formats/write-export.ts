import type { Motion } from '../motion/motion';
import { writeBvh } from './bvh/write-bvh';
import { formatsFor, type ExportFormat } from './export-formats';
import { writeFaceCsv, writeFaceJson } from './face/write-face';
import { writeGlb } from './glb/write-glb';
import { writeVrma } from './vrma/write-vrma';

const WRITERS: Record<ExportFormat, (motion: Motion, name: string) => Promise<string | Uint8Array>> = {
  bvh: async (motion) => writeBvh(motion),
  glb: (motion, name) => writeGlb(motion, { name }),
  vrma: writeVrma,
  faceCsv: async (motion) => writeFaceCsv(motion),
  faceJson: async (motion) => writeFaceJson(motion),
};

/** A motion that can't leave as a file of some format; the message is a sentence for the person. */
export class ExportError extends Error {
  override name = 'ExportError';
}

/**
 * Writes a motion as a file.
 * @returns text or bytes, whichever the format is made of.
 * @throws ExportError for a file of a face where none was captured.
 * @param name told inside the file where the format has a place for it.
 */
export async function writeExport(format: ExportFormat, motion: Motion, name: string): Promise<string | Uint8Array> {
  if (!formatsFor(motion).includes(format))
    throw new ExportError('No face was captured in this take. Track it again with "Face" switched on.');
  return WRITERS[format](motion, name);
}
