import { Document, WebIO, type Node } from '@gltf-transform/core';
import { mat4, type quat, type vec3 } from 'gl-matrix';
import { cutoutFigure } from '../../figure/cutout';
import type { Motion } from '../../motion/motion';
import { restPose } from '../../motion/skeleton';

/** What goes into the file beside skeleton and animation. */
export interface GlbOptions {
  /** Name of the animation. */
  name?: string;
  /** A simple skinned body. */
  body?: boolean;
}

/**
 * Writes a motion as binary glTF 2.0: one node for each joint in its rest pose, a skin, a simple body and one
 * animation with a key on every frame. Metres, +Y up, the character faces +Z.
 */
export async function writeGlb(motion: Motion, options: GlbOptions = {}): Promise<Uint8Array> {
  const { skeleton, frames } = motion;
  const document = new Document();
  const buffer = document.createBuffer();
  const scene = document.createScene('scene');
  document.getRoot().setDefaultScene(scene);
  document.getRoot().getAsset().generator = 'Merry Shadow';
  const nodes = skeleton.joints.map((joint) => {
    const node = document.createNode(joint.name).setTranslation([...joint.offset]);
    return joint.rest ? node.setRotation([...joint.rest]) : node;
  });
  skeleton.joints.forEach((joint, i) => {
    if (joint.parent >= 0) nodes[joint.parent].addChild(nodes[i]);
    else scene.addChild(nodes[i]);
  });

  const animation = document.createAnimation(options.name ?? 'take');
  const times = document
    .createAccessor('times')
    .setType('SCALAR')
    .setBuffer(buffer)
    .setArray(Float32Array.from({ length: frames }, (_, f) => f / motion.rate));
  const channel = (node: Node, path: 'rotation' | 'translation', values: Float32Array): void => {
    const output = document
      .createAccessor()
      .setType(path === 'rotation' ? 'VEC4' : 'VEC3')
      .setArray(values)
      .setBuffer(buffer);
    const sampler = document.createAnimationSampler().setInput(times).setOutput(output).setInterpolation('LINEAR');
    animation
      .addSampler(sampler)
      .addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler));
  };
  channel(nodes[0], 'translation', motion.root.slice());
  nodes.forEach((node, joint) =>
    channel(node, 'rotation', unitQuaternions(motion.rotations, joint * frames * 4, frames)),
  );
  if (options.body !== false) addBody(document, motion, nodes);
  return new WebIO().writeBinary(document);
}

/** Readers ask for exact unit length, which single precision only has after another division. */
function unitQuaternions(rotations: Float32Array, from: number, frames: number): Float32Array {
  const out = rotations.slice(from, from + frames * 4);
  for (let i = 0; i < out.length; i += 4) {
    const length = Math.hypot(out[i], out[i + 1], out[i + 2], out[i + 3]) || 1;
    for (let k = 0; k < 4; k++) out[i + k] /= length;
  }
  return out;
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
