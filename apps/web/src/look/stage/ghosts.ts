import { Group, type MeshLambertMaterial } from 'three';
import type { Motion } from '@merry-shadow/core/motion/motion';
import type { StageColours } from './colours';
import { FigureMesh } from './figure-mesh';

/** Which other moments are shown, seconds from the shown one, and how firmly each is seen. */
const MOMENTS: readonly (readonly [seconds: number, opacity: number])[] = [
  [-0.5, 0.1],
  [-0.25, 0.2],
  [0.25, 0.2],
  [0.5, 0.1],
];

/** The figure as it stands in frames around the shown one. */
export class Ghosts {
  readonly group = new Group();
  private readonly figures: { mesh: FigureMesh; by: number }[];

  constructor(
    private motion: Motion,
    colours: StageColours,
  ) {
    this.figures = MOMENTS.map(([seconds, opacity]) => {
      const mesh = new FigureMesh(motion, colours, true);
      (mesh.mesh.material as MeshLambertMaterial).opacity = opacity;
      this.group.add(mesh.mesh);
      return { mesh, by: Math.round(seconds * motion.rate) };
    });
  }

  /** Another motion of the same skeleton. */
  setMotion(motion: Motion): void {
    this.motion = motion;
    for (const { mesh } of this.figures) mesh.setMotion(motion);
  }

  /** Moments before the first frame and after the last one are left out. */
  pose(frame: number): void {
    for (const { mesh, by } of this.figures) {
      mesh.mesh.visible = frame + by >= 0 && frame + by < this.motion.frames;
      if (mesh.mesh.visible) mesh.pose(frame + by);
    }
  }

  dispose(): void {
    for (const { mesh } of this.figures) mesh.dispose();
  }
}
