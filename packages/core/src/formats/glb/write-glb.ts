import { Document, WebIO, type Node } from '@gltf-transform/core';
import { mat4, type quat, type vec3 } from 'gl-matrix';
import { cutoutFigure } from '../../figure/cutout';
import type { Motion } from '../../motion/motion';
import { addFace } from './glb-face';
import { addSkeletonAnimation } from './skeleton-animation';
import { restPose } from '../../motion/skeleton';

/** What goes into the file beside skeleton and animation. */
export interface GlbOptions {
  /** Name of the animation. */
  name?: string;
  /** A simple skinned body. */
  body?: boolean;
}

/**
 * Writes a motion as binary glTF 2.0: one node for each joint in its rest pose, a skin, a simple body, a simple face with a morph target for
 * each of its shapes where the motion has some, and one animation with a key on every frame. Metres, +Y up, the character faces +Z.
 */
export async function writeGlb(motion: Motion, options: GlbOptions = {}): Promise<Uint8Array> {
  const document = new Document();
  const { nodes, channel } = addSkeletonAnimation(document, motion, options.name ?? 'take');
  if (options.body !== false) {
    addBody(document, motion, nodes);
    const face = addFace(document, motion, nodes);
    if (face) channel(face.node, 'weights', face.weights);
  }
  return new WebIO().writeBinary(document);
}

function addBody(document: Document, { skeleton }: Motion, nodes: readonly Node[]): void {
  const buffer = document.getRoot().listBuffers()[0];
  const figure = cutoutFigure(skeleton);
  const { positions, rotations } = restPose(skeleton);
  const inverse = new Float32Array(skeleton.joints.length * 16);
  skeleton.joints.forEach((_, i) => {
    const place = mat4.fromRotationTranslation(
      mat4.create(),
      [...rotations.subarray(i * 4, i * 4 + 4)] as quat,
      [...positions.subarray(i * 3, i * 3 + 3)] as vec3,
    );
    inverse.set(mat4.invert(place, place) ?? place, i * 16);
  });
  const skin = document
    .createSkin('body')
    .setSkeleton(nodes[0])
    .setInverseBindMatrices(document.createAccessor().setType('MAT4').setArray(inverse).setBuffer(buffer));
  for (const node of nodes) skin.addJoint(node);
  const accessor = (type: 'VEC3' | 'VEC4' | 'SCALAR', array: Float32Array | Uint16Array | Uint32Array) =>
    document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  const material = document
    .createMaterial('paper')
    .setBaseColorFactor([0.16, 0.14, 0.15, 1])
    .setRoughnessFactor(0.9)
    .setMetallicFactor(0);
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', figure.positions))
    .setAttribute('NORMAL', accessor('VEC3', figure.normals))
    .setAttribute('JOINTS_0', accessor('VEC4', figure.joints))
    .setAttribute('WEIGHTS_0', accessor('VEC4', figure.weights))
    .setIndices(accessor('SCALAR', figure.indices))
    .setMaterial(material);
  const mesh = document.createMesh('body').addPrimitive(primitive);
  document.getRoot().getDefaultScene()?.addChild(document.createNode('body').setMesh(mesh).setSkin(skin));
}
