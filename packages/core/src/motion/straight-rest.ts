import { multiply, rotate } from './flat-turns';
import type { Motion } from './motion';
import { restPose, type Joint } from './skeleton';

/**
 * The same movement on a skeleton whose joints are not turned at rest, for formats that know no turns of a rest pose: every joint is in the same
 * place of the world in every frame. A turn is told by what it adds to the rest pose, in the world's axes.
 */
export function withStraightRest(motion: Motion): Motion {
  const { skeleton, frames, rotations } = motion;
  if (skeleton.joints.every(({ rest }) => rest === undefined)) return motion;
  const { rotations: rest } = restPose(skeleton);
  const turn = new Float64Array(4);
  const joints = skeleton.joints.map(({ name, parent, offset, tip }, i): Joint => {
    return {
      name,
      parent,
      offset: parent < 0 ? offset : turned(rest, parent, offset),
      ...(tip && { tip: turned(rest, i, tip) }),
    };
  });
  const out = new Float32Array(rotations.length);
  skeleton.joints.forEach(({ parent }, joint) => {
    const own = [-rest[joint * 4], -rest[joint * 4 + 1], -rest[joint * 4 + 2], rest[joint * 4 + 3]];
    for (let frame = 0; frame < frames; frame++) {
      const at = (joint * frames + frame) * 4;
      // world turn of the parent at rest · local turn · world turn of the joint at rest, back
      multiply(rotations, at, own, 0, turn, 0);
      if (parent >= 0) multiply(rest, parent * 4, turn, 0, turn, 0);
      for (let k = 0; k < 4; k++) out[at + k] = turn[k];
    }
  });
  return { ...motion, skeleton: { joints }, rotations: out };
}

function turned(rest: Float64Array, joint: number, v: readonly number[]): [number, number, number] {
  const out = new Float64Array(3);
  rotate(rest, joint * 4, v[0], v[1], v[2], out);
  return [out[0], out[1], out[2]];
}
