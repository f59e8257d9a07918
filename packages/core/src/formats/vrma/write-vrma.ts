import { Document, WebIO, type Node } from '@gltf-transform/core';
import { quat } from 'gl-matrix';
import { FACE_SHAPES, shapeCurve } from '../../face/face-shapes';
import { GAZE_CURVES } from '../../face/gaze';
import type { Motion } from '../../motion/motion';
import { addSkeletonAnimation } from '../glb/skeleton-animation';
import { VrmAnimation } from './vrm-animation';

/** Expressions of the standard that follow from shapes of the face. */
const PRESETS: Readonly<Record<string, readonly string[]>> = {
  blinkLeft: ['eyeBlinkLeft'],
  blinkRight: ['eyeBlinkRight'],
  aa: ['jawOpen'],
  ou: ['mouthPucker'],
  happy: ['mouthSmileLeft', 'mouthSmileRight'],
};

/**
 * Writes a motion as VRM animation 1.0 (https://github.com/vrm-c/vrm-specification, VRMC_vrm_animation): the humanoid's bones in T-pose with their rotations, the
 * hips' path, the face's shapes as expressions (those of the standard that follow from them, and each shape by its own name) and where the eyes look. It moves any
 * VRM character.
 */
export async function writeVrma(motion: Motion, name = 'take'): Promise<Uint8Array> {
  const document = new Document();
  const extension = document.createExtension(VrmAnimation);
  const { nodes, channel, scene } = addSkeletonAnimation(document, motion, name);
  motion.skeleton.joints.forEach((joint, i) => extension.humanBones.set(joint.name, nodes[i]));
  const valuesOf = (curve: string): Float32Array | undefined => motion.curves.find((one) => one.name === curve)?.values;
  /** A node whose way along +X is how strongly an expression is made. */
  const expression = (title: string, values: Float32Array): Node => {
    const node = document.createNode(title);
    scene.addChild(node);
    const places = new Float32Array(values.length * 3);
    values.forEach((value, frame) => (places[frame * 3] = value));
    channel(node, 'translation', places);
    return node;
  };
  for (const [preset, shapes] of Object.entries(PRESETS)) {
    const columns = shapes.map((shape) => valuesOf(`face.${shape}`)).filter((values) => values !== undefined);
    if (columns.length !== shapes.length) continue;
    const mean = columns[0].map((_, frame) => columns.reduce((sum, values) => sum + values[frame], 0) / columns.length);
    extension.presets.set(preset, expression(preset, mean));
  }
  for (const shape of FACE_SHAPES) {
    const values = valuesOf(shapeCurve(shape));
    if (values) extension.custom.set(shape, expression(`expression.${shape}`, values));
  }
  const [across, up] = [GAZE_CURVES.across, GAZE_CURVES.up].map(valuesOf);
  if (across && up) {
    const node = document.createNode('lookAt');
    scene.addChild(node);
    const turns = new Float32Array(across.length * 4);
    across.forEach((yaw, frame) => {
      const turn = quat.setAxisAngle([0, 0, 0, 1], [0, 1, 0], yaw);
      quat.multiply(turn, turn, quat.setAxisAngle([0, 0, 0, 1], [1, 0, 0], -up[frame]));
      turns.set(turn, frame * 4);
    });
    channel(node, 'rotation', turns);
    extension.lookAt = node;
  }
  return new WebIO().registerExtensions([VrmAnimation]).writeBinary(document);
}
