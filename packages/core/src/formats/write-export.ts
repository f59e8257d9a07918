import type { Motion } from '../motion/motion';
import { writeBvh } from './bvh/write-bvh';
import type { ExportFormat } from './export-formats';
import { writeGlb } from './glb/write-glb';

const WRITERS: Record<ExportFormat, (motion: Motion, name: string) => Promise<string | Uint8Array>> = {
  bvh: async (motion) => writeBvh(motion),
  glb: (motion, name) => writeGlb(motion, { name }),
};

/**
 * Writes a motion as a file.
 * @returns text or bytes, whichever the format is made of.
 * @param name told inside the file where the format has a place for it.
 */
export function writeExport(format: ExportFormat, motion: Motion, name: string): Promise<string | Uint8Array> {
  return WRITERS[format](motion, name);
}
