import type { Document, Node } from '@gltf-transform/core';
import { hasFace, shapeCurve, type FaceShape } from '../../face/face-shapes';
import { cutoutFace, FACE_PAPERS, type FacePaper } from '../../figure/cutout-face';
import type { Motion } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';

/** Linear colours of what the face is made of. */
const COLOURS: Record<FacePaper, [number, number, number]> = {
  skin: [0.16, 0.14, 0.15],
  white: [0.9, 0.86, 0.78],
  iris: [0.02, 0.015, 0.012],
  brow: [0.55, 0.38, 0.2],
  lip: [0.33, 0.11, 0.09],
  mouth: [0.03, 0.01, 0.01],
};

/**
 * Hangs a simple face on the head, with a morph target for each shape; their names are told in the mesh's extras as `targetNames`, as the
 * glTF 2.0 specification recommends.
 * @returns its node and the weights of all targets, frame after frame; null where the motion has no face.
 */
export function addFace(
  document: Document,
  motion: Motion,
  nodes: readonly Node[],
): { node: Node; weights: Float32Array } | null {
  const head = jointIndex(motion.skeleton, 'head');
  if (head < 0 || !hasFace(motion)) return null;
  const face = cutoutFace(motion.skeleton);
  const buffer = document.getRoot().listBuffers()[0];
  const accessor = (type: 'VEC3' | 'SCALAR', array: Float32Array | Uint32Array) =>
    document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  const colours = new Float32Array(face.papers.length * 3);
  face.papers.forEach((paper, v) => colours.set(COLOURS[FACE_PAPERS[paper]], v * 3));
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', face.positions))
    .setAttribute('NORMAL', accessor('VEC3', face.normals))
    .setAttribute('COLOR_0', accessor('VEC3', colours))
    .setIndices(accessor('SCALAR', face.indices))
    .setMaterial(document.createMaterial('face').setRoughnessFactor(0.9).setMetallicFactor(0));
  const shapes = [...face.targets.keys()];
  for (const shape of shapes)
    primitive.addTarget(
      document
        .createPrimitiveTarget(shape)
        .setAttribute('POSITION', accessor('VEC3', face.targets.get(shape) as Float32Array)),
    );
  const mesh = document
    .createMesh('face')
    .addPrimitive(primitive)
    .setWeights(shapes.map(() => 0))
    .setExtras({ targetNames: shapes });
  const node = document.createNode('face').setMesh(mesh);
  nodes[head].addChild(node);
  return { node, weights: weightsOf(motion, shapes) };
}

/** frames × shapes. */
function weightsOf({ frames, curves }: Motion, shapes: readonly FaceShape[]): Float32Array {
  const weights = new Float32Array(frames * shapes.length);
  shapes.forEach((shape, i) => {
    const values = curves.find(({ name }) => name === shapeCurve(shape))?.values;
    if (values) for (let frame = 0; frame < frames; frame++) weights[frame * shapes.length + i] = values[frame];
  });
  return weights;
}
