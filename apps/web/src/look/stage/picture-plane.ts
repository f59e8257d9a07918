import { DoubleSide, Mesh, MeshBasicMaterial, PlaneGeometry, SRGBColorSpace, Vector3, VideoTexture } from 'three';
import type { PinholeCamera } from '@merry-shadow/core/camera/pinhole';
import type { PicturePlace } from '../../take/stage-controls';

/** How far behind the figure it stands, seen from the camera that filmed, metres. */
const BEHIND = 1.2;
/** Its height where it faces who looks, and how far from the figure it stands then, metres. */
const HEIGHT = 1.9;
const BESIDE = 2.4;

/** The video as a sheet of paper that stands in the stage. */
export class PicturePlane {
  readonly mesh: Mesh<PlaneGeometry, MeshBasicMaterial>;
  private readonly texture: VideoTexture;

  constructor(
    private readonly video: HTMLVideoElement,
    private readonly place: Exclude<PicturePlace, 'off'>,
  ) {
    this.texture = new VideoTexture(video);
    this.texture.colorSpace = SRGBColorSpace;
    this.mesh = new Mesh(
      new PlaneGeometry(1, 1),
      new MeshBasicMaterial({ map: this.texture, side: DoubleSide, toneMapped: false, fog: false }),
    );
  }

  /** Puts it where it belongs. @param shot the camera that filmed. @param at where the figure is. @param eye where one looks from. */
  stand(shot: PinholeCamera, at: Vector3, eye: Vector3): void {
    const { mesh } = this;
    const shape = shot.width / shot.height;
    const right = new Vector3(shot.axes[0], shot.axes[1], shot.axes[2]);
    if (this.place === 'behind') {
      const ahead = new Vector3(-shot.axes[6], -shot.axes[7], -shot.axes[8]);
      const position = new Vector3(...shot.position);
      const far = Math.max(1, at.clone().sub(position).dot(ahead) + BEHIND);
      const height = (far * shot.height) / shot.focal;
      mesh.scale.set(height * shape, height, 1);
      mesh.position.copy(position).addScaledVector(ahead, far);
      mesh.up.set(shot.axes[3], shot.axes[4], shot.axes[5]);
      mesh.lookAt(position);
    } else {
      mesh.scale.set(HEIGHT * shape, HEIGHT, 1);
      mesh.position.copy(at).addScaledVector(right, -BESIDE);
      mesh.position.y = HEIGHT / 2;
      mesh.up.set(0, 1, 0);
      mesh.lookAt(eye.x, mesh.position.y, eye.z);
    }
    if (this.video.readyState >= 2) this.texture.needsUpdate = true;
  }

  dispose(): void {
    this.texture.dispose();
    this.mesh.geometry.dispose();
    this.mesh.material.dispose();
  }
}
