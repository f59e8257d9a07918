import type { Document, Node, Scene } from '@gltf-transform/core';
import { motionColumns } from '../../motion/columns';
import type { Motion } from '../../motion/motion';

/** A skeleton and its animation in a glTF document. */
export interface SkeletonAnimation {
  /** One for each joint. */
  nodes: Node[];
  scene: Scene;
  /** Adds a channel with a key on every frame; where the motion holds poses, with their keys alone, each held until the next. */
  channel: (node: Node, path: keyof typeof CHANNEL_TYPES, values: Float32Array) => void;
}

const CHANNEL_TYPES = { rotation: 'VEC4', translation: 'VEC3', weights: 'SCALAR' } as const;

/** Adds a node for each joint in its rest pose, and an animation of their rotations and of the root's path. */
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
  const held = heldPoses(motion);
  const keys = held ?? Array.from({ length: frames }, (_, f) => f);
  const times = document
    .createAccessor('times')
    .setType('SCALAR')
    .setBuffer(buffer)
    .setArray(Float32Array.from(keys, (f) => f / motion.rate));
  const channel = (node: Node, path: keyof typeof CHANNEL_TYPES, values: Float32Array): void => {
    const width = values.length / frames;
    const keyed = held
      ? Float32Array.from(keys.flatMap((f) => [...values.subarray(f * width, (f + 1) * width)]))
      : values;
    const output = document.createAccessor().setType(CHANNEL_TYPES[path]).setArray(keyed).setBuffer(buffer);
    const sampler = document
      .createAnimationSampler()
      .setInput(times)
      .setOutput(output)
      .setInterpolation(held ? 'STEP' : 'LINEAR');
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

/** The frames with which another pose begins, and the last frame, where a motion holds its poses; null where it moves in most frames. */
export function heldPoses(motion: Motion): number[] | null {
  const { frames } = motion;
  const columns = motionColumns(motion);
  const isNew = (f: number): boolean =>
    columns.some(({ width, data }) => {
      for (let k = f * width; k < (f + 1) * width; k++) if (data[k] !== data[k - width]) return true;
      return false;
    });
  const keys = Array.from({ length: frames }, (_, f) => f).filter((f) => f === 0 || isNew(f));
  if (keys.length > frames / 2) return null;
  return keys.at(-1) === frames - 1 ? keys : [...keys, frames - 1];
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
