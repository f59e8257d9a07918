import { BufferAttribute, BufferGeometry, Color, Mesh, MeshLambertMaterial } from 'three';
import { shapeCurve } from '@merry-shadow/core/face/face-shapes';
import { cutoutFace, FACE_PAPERS } from '@merry-shadow/core/figure/cutout-face';
import type { Motion } from '@merry-shadow/core/motion/motion';
import type { StageColours } from './colours';

/** The cut-out face of a motion, to hang on the head. */
export class FaceMesh {
  readonly mesh: Mesh<BufferGeometry, MeshLambertMaterial>;
  private curves: (Float32Array | null)[] = [];
  private readonly shapes: readonly string[];

  constructor(motion: Motion, colours: StageColours) {
    const face = cutoutFace(motion.skeleton);
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(face.positions, 3));
    geometry.setAttribute('normal', new BufferAttribute(face.normals, 3));
    geometry.setIndex(new BufferAttribute(face.indices, 1));
    const colour = new Float32Array(face.papers.length * 3);
    const tones = FACE_PAPERS.map((paper) => new Color(colours.face[paper]));
    face.papers.forEach((paper, v) => tones[paper].toArray(colour, v * 3));
    geometry.setAttribute('color', new BufferAttribute(colour, 3));
    geometry.morphAttributes.position = [...face.targets.values()].map((target) => new BufferAttribute(target, 3));
    geometry.morphTargetsRelative = true;
    this.shapes = [...face.targets.keys()].map(shapeCurve);
    this.mesh = new Mesh(geometry, new MeshLambertMaterial({ vertexColors: true }));
    this.mesh.frustumCulled = false;
    this.setMotion(motion);
  }

  /** Another motion of the same figure. */
  setMotion({ curves }: Motion): void {
    this.curves = this.shapes.map((name) => curves.find((curve) => curve.name === name)?.values ?? null);
  }

  pose(frame: number): void {
    this.curves.forEach((values, i) => {
      if (this.mesh.morphTargetInfluences) this.mesh.morphTargetInfluences[i] = values?.[frame] ?? 0;
    });
  }

  dispose(): void {
    this.mesh.geometry.dispose();
    this.mesh.material.dispose();
  }
}
