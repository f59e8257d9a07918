/** File formats that a motion can leave as, by file ending. */
export const EXPORT_FORMATS = {
  bvh: { title: 'BVH · skeleton and motion', mime: 'text/plain; charset=utf-8' },
  glb: { title: 'GLB · skeleton, simple body, motion', mime: 'model/gltf-binary' },
} as const;
export type ExportFormat = keyof typeof EXPORT_FORMATS;
