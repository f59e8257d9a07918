import {
  BufferGeometry,
  Color,
  Float32BufferAttribute,
  Group,
  Line,
  LineBasicMaterial,
  Points,
  PointsMaterial,
} from 'three';
import { emptyPose, poseAt, type Motion } from '@merry-shadow/core/motion/motion';
import { chainOf, jointIndex } from '@merry-shadow/core/motion/skeleton';
import type { StageColours } from './colours';

/** Joints that leave trails. */
const TRAILED = ['leftHand', 'rightHand', 'leftFoot', 'rightFoot', 'head'] as const;
/** How long a trail is before and after the shown frame, seconds. */
const SECONDS = 0.8;

/** Where some frames of a motion lie, and the joints' ways through them, metres. @returns for each joint that the motion has frames × 3. */
export function trailsAt(
  motion: Motion,
  frame: number,
): { from: number; ways: { name: (typeof TRAILED)[number]; places: Float32Array }[] } {
  const half = Math.round(SECONDS * motion.rate);
  const from = Math.max(0, frame - half);
  const until = Math.min(motion.frames, frame + half + 1);
  const joints = TRAILED.flatMap((name) => {
    const joint = jointIndex(motion.skeleton, name);
    return joint < 0 ? [] : [{ name, joint, places: new Float32Array(Math.max(0, until - from) * 3) }];
  });
  const chain = chainOf(
    motion.skeleton,
    joints.map(({ joint }) => joint),
  );
  const pose = emptyPose(motion.skeleton);
  for (let f = from; f < until; f++) {
    poseAt(motion, f, pose, chain);
    for (const { joint, places } of joints)
      places.set(pose.positions.subarray(joint * 3, joint * 3 + 3), (f - from) * 3);
  }
  return { from, ways: joints.map(({ name, places }) => ({ name, places })) };
}

/** The ways of hands, feet and head about the shown frame: a line with a dot for each frame, so that wide dots are fast ones; what is still to come is paler. */
export class Trails {
  readonly group = new Group();

  constructor(private readonly colours: StageColours) {}

  show(motion: Motion, frame: number): void {
    this.clear();
    const { from, ways } = trailsAt(motion, frame);
    const ground = new Color(this.colours.ground);
    for (const { name, places } of ways) {
      const count = places.length / 3;
      if (count < 2) continue;
      const { left, right, middle } = this.colours;
      const own = new Color(name.startsWith('left') ? left : name.startsWith('right') ? right : middle);
      const tones = new Float32Array(count * 3);
      for (let i = 0; i < count; i++) {
        const away = (from + i - frame) / (SECONDS * motion.rate);
        own
          .clone()
          .lerp(ground, away > 0 ? 0.45 + 0.5 * away : -0.75 * away)
          .toArray(tones, i * 3);
      }
      const geometry = new BufferGeometry()
        .setAttribute('position', new Float32BufferAttribute(places, 3))
        .setAttribute('color', new Float32BufferAttribute(tones, 3));
      this.group.add(
        new Line(geometry, new LineBasicMaterial({ vertexColors: true })),
        new Points(geometry, new PointsMaterial({ vertexColors: true, size: 0.03 })),
      );
    }
  }

  clear(): void {
    for (const item of this.group.children as (Line | Points)[]) {
      item.geometry.dispose();
      (item.material as LineBasicMaterial | PointsMaterial).dispose();
    }
    this.group.clear();
  }
}
