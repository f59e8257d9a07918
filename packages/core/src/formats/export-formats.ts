import { hasFace } from '../face/face-shapes';
import type { Motion } from '../motion/motion';

/** File formats that a motion can leave as, by name: what they are, the ending of their files, and whether they are of a face. */
export const EXPORT_FORMATS = {
  bvh: { title: 'BVH · skeleton and motion', mime: 'text/plain; charset=utf-8', ending: 'bvh', face: false },
  glb: { title: 'GLB · skeleton, simple body, motion', mime: 'model/gltf-binary', ending: 'glb', face: false },
  vrma: { title: 'VRMA · animation for VRM characters', mime: 'model/gltf-binary', ending: 'vrma', face: false },
  faceCsv: { title: 'CSV · curves of the face', mime: 'text/csv; charset=utf-8', ending: 'face.csv', face: true },
  faceJson: { title: 'JSON · curves of the face', mime: 'application/json', ending: 'face.json', face: true },
} as const;
export type ExportFormat = keyof typeof EXPORT_FORMATS;
export const EXPORT_FORMAT_NAMES = Object.keys(EXPORT_FORMATS) as ExportFormat[];

/** The formats that a motion can leave as: those of a face need one that was told. */
export const formatsFor = (motion: Pick<Motion, 'curves'>): ExportFormat[] =>
  EXPORT_FORMAT_NAMES.filter((name) => !EXPORT_FORMATS[name].face || hasFace(motion));
