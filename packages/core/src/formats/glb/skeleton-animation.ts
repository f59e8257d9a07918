import type { Document, Node, Scene } from '@gltf-transform/core';
import type { Motion } from '../../motion/motion';

/** A skeleton and its animation in a glTF document. */
export interface SkeletonAnimation {
  /** One for each joint. */
  nodes: Node[];
  scene: Scene;
  /** Adds a channel with a key on every frame. */
  channel: (node: Node, path: keyof typeof CHANNEL_TYPES, values: Float32Array) => void;
}

const CHANNEL_TYPES = { rotation: 'VEC4', translation: 'VEC3', weights: 'SCALAR' } as const;

/** Adds a node for each joint in its rest pose, and an animation of their rotations and of the root's path with a key on every frame. */
export function addSkeletonAnimation(document: Document, motion: Motion, name: string): SkeletonAnimation {
  const { skeleton, frames } = motion;
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

  const animation = document.createAnimation(name);
  const times = document
    .createAccessor('times')
    .setType('SCALAR')
    .setBuffer(buffer)
    .setArray(Float32Array.from({ length: frames }, (_, f) => f / motion.rate));
  const channel = (node: Node, path: keyof typeof CHANNEL_TYPES, values: Float32Array): void => {
    const output = document.createAccessor().setType(CHANNEL_TYPES[path]).setArray(values).setBuffer(buffer);
    const sampler = document.createAnimationSampler().setInput(times).setOutput(output).setInterpolation('LINEAR');
    animation
      .addSampler(sampler)
      .addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler));
  };
  channel(nodes[0], 'translation', motion.root.slice());
  nodes.forEach((node, joint) =>
    channel(node, 'rotation', unitQuaternions(motion.rotations, joint * frames * 4, frames)),
  );
  return { nodes, scene, channel };
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
