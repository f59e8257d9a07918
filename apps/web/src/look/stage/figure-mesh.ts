import {
  Bone,
  BufferAttribute,
  BufferGeometry,
  Color,
  MeshLambertMaterial,
  Skeleton as ThreeSkeleton,
  SkinnedMesh,
  Vector3,
} from 'three';
import { cutoutFigure } from '@merry-shadow/core/figure/cutout';
import type { Motion } from '@merry-shadow/core/motion/motion';
import { hasFace } from '@merry-shadow/core/face/face-shapes';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';
import type { StageColours } from './colours';
import { FaceMesh } from './face-mesh';

/** The cut-out figure of a motion as a skinned mesh that can be posed frame by frame. */
export class FigureMesh {
  readonly mesh: SkinnedMesh;
  private readonly face: FaceMesh | null;
  private readonly bones: Bone[];

  constructor(
    private motion: Motion,
    colours: StageColours,
    /** A figure beside another one: without a face and a shadow, and see-through. */
    pale = false,
  ) {
    const figure = cutoutFigure(motion.skeleton);
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(figure.positions, 3));
    geometry.setAttribute('normal', new BufferAttribute(figure.normals, 3));
    geometry.setAttribute('skinIndex', new BufferAttribute(figure.joints, 4));
    geometry.setAttribute('skinWeight', new BufferAttribute(figure.weights, 4));
    geometry.setIndex(new BufferAttribute(figure.indices, 1));
    const tones = [colours.middle, colours.left, colours.right].map((value) => new Color(value));
    const colour = new Float32Array(figure.sides.length * 3);
    figure.sides.forEach((side, v) => tones[side].toArray(colour, v * 3));
    geometry.setAttribute('color', new BufferAttribute(colour, 3));
    this.bones = motion.skeleton.joints.map((joint) => {
      const bone = new Bone();
      bone.name = joint.name;
      bone.position.set(...joint.offset);
      if (joint.rest) bone.quaternion.set(...joint.rest);
      return bone;
    });
    motion.skeleton.joints.forEach((joint, i) => joint.parent >= 0 && this.bones[joint.parent].add(this.bones[i]));
    this.mesh = new SkinnedMesh(
      geometry,
      new MeshLambertMaterial({ vertexColors: true, transparent: pale, opacity: pale ? 0.34 : 1, depthWrite: !pale }),
    );
    this.mesh.add(this.bones[0]);
    this.bones[0].updateWorldMatrix(true, true);
    this.mesh.bind(new ThreeSkeleton(this.bones));
    this.mesh.castShadow = !pale;
    this.mesh.frustumCulled = false;
    const head = jointIndex(motion.skeleton, 'head');
    this.face = hasFace(motion) && head >= 0 && !pale ? new FaceMesh(motion, colours) : null;
    if (this.face) this.bones[head].add(this.face.mesh);
  }

  /** Another motion of the same skeleton. */
  setMotion(motion: Motion): void {
    this.motion = motion;
    this.face?.setMotion(motion);
  }

  pose(frame: number): void {
    const { motion } = this;
    const f = Math.min(motion.frames - 1, Math.max(0, frame));
    this.bones.forEach((bone, joint) => {
      const at = (joint * motion.frames + f) * 4;
      bone.quaternion.set(
        motion.rotations[at],
        motion.rotations[at + 1],
        motion.rotations[at + 2],
        motion.rotations[at + 3],
      );
    });
    this.bones[0].position.fromArray(motion.root, f * 3);
    this.face?.pose(f);
  }

  /** Where a place on a bone is in the world in the frame that was posed last; null without such a bone. @param on metres, in the bone's axes. */
  placeOf(bone: string, on: readonly [number, number, number]): Vector3 | null {
    const found = this.bones.find(({ name }) => name === bone);
    if (!found) return null;
    this.bones[0].updateWorldMatrix(true, true);
    return found.localToWorld(new Vector3(...on));
  }

  /** Where a bone begins in the world, as it was drawn last; null without such a bone. */
  drawnPlace(bone: string): Vector3 | null {
    const found = this.bones.find(({ name }) => name === bone);
    return found ? new Vector3().setFromMatrixPosition(found.matrixWorld) : null;
  }

  dispose(): void {
    this.face?.dispose();
    this.mesh.geometry.dispose();
    (this.mesh.material as MeshLambertMaterial).dispose();
    this.mesh.skeleton.dispose();
  }
}
