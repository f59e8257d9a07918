import {
  Box3,
  Color,
  DirectionalLight,
  Fog,
  HemisphereLight,
  type LineSegments,
  type Mesh,
  PCFShadowMap,
  PerspectiveCamera,
  Scene,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { PinholeCamera } from '@merry-shadow/core/camera/pinhole';
import type { Motion } from '@merry-shadow/core/motion/motion';
import { isCloseUp, type CloseUp, type PicturePlace, type StandardView } from '../../take/stage-controls';
import { Beside, type StageCompany } from './beside';
import { stageColours } from './colours';
import { FigureMesh } from './figure-mesh';
import { floorOf } from './floor';

/** The eye's angle of view from above to below, degrees. */
const FIELD = 38;
/** From how far one performer is looked at, metres. */
const FAR = 4.1;
/** A line of ten centimetres that is seen shorter than so many pixels is looked along; metres for a pixel then. */
const SEEN_ALONG = 8;
const PER_PIXEL = 0.004;

/** What a close-up shows: a place on a bone, metres in its axes, and from how far. */
const CLOSE: Record<CloseUp, { bone: string; ahead: [number, number, number]; far: number }> = {
  face: { bone: 'head', ahead: [0, 0.065, 0.05], far: 0.62 },
  'left hand': { bone: 'leftHand', ahead: [0.08, 0, 0], far: 0.5 },
  'right hand': { bone: 'rightHand', ahead: [-0.08, 0, 0], far: 0.5 },
};

/** Said where a stage can't be opened. */
export const NO_3D = "This browser can't draw in 3D (WebGL is missing or switched off). Everything else works.";

/** The 3D stage. Draws only when something has changed, once for each screen refresh. */
export class StageView {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly camera = new PerspectiveCamera(FIELD, 1, 0.1, 40);
  private readonly controls: OrbitControls;
  private readonly lamp = new DirectionalLight('#fff3dc', 2.1);
  private floor: (Mesh | LineSegments)[] = [];
  private figure: FigureMesh | null = null;
  private readonly beside = new Beside();
  private shot: PinholeCamera | null = null;
  private motion: Motion | null = null;
  private frame = 0;
  private asked = 0;
  private readonly drawn = new Set<() => void>();
  /** The view keeps beside the figure; the place it was at last. */
  private following = true;
  private view: StandardView = 'front';
  private readonly last = new Vector3();
  /** Width by height of the picture that has to fit in; null shows a fixed height. */
  private pictureShape: number | null = null;

  /** @throws Error when the browser has no WebGL. */
  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true });
    this.renderer.shadowMap.enabled = true;
    this.renderer.shadowMap.type = PCFShadowMap;
    this.lamp.castShadow = true;
    this.lamp.shadow.mapSize.set(1024, 1024);
    this.lamp.shadow.radius = 3;
    Object.assign(this.lamp.shadow.camera, { left: -1.6, right: 1.6, top: 1.6, bottom: -1.6, near: 0.5, far: 8 });
    this.scene.add(this.lamp, this.lamp.target, new HemisphereLight('#fff6e4', '#c7ab86', 2.2));
    this.scene.add(this.beside.group);
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.minDistance = 0.2;
    this.controls.maxDistance = 14;
    this.controls.addEventListener('change', () => this.askDraw());
    this.look('front');
    this.paint();
  }

  /** Takes the colours of the current lighting. */
  paint(): void {
    const colours = stageColours();
    for (const item of this.floor) {
      this.scene.remove(item);
      item.geometry.dispose();
    }
    this.scene.background = new Color(colours.ground);
    this.scene.fog = new Fog(colours.ground, 7, 16);
    this.floor = floorOf(colours);
    this.scene.add(...this.floor);
    this.newFigure();
    this.beside.paint();
    this.askDraw();
  }

  /** The camera that filmed what is shown; a view through it goes along. */
  setShot(shot: PinholeCamera): void {
    if (shot === this.shot) return;
    this.shot = shot;
    if (this.pictureShape !== null) this.look('camera');
  }

  /** Shows a motion. Another one of the same body changes how the figure moves, not the figure nor the view. */
  setMotion(motion: Motion | null, shot: PinholeCamera | null): void {
    const first = this.motion === null;
    const sameBody = motion !== null && this.figure !== null && motion.skeleton === this.motion?.skeleton;
    this.motion = motion;
    if (motion) this.shot = shot;
    if (sameBody) this.figure?.setMotion(motion);
    else this.newFigure();
    this.beside.setMotion(motion);
    if (motion && first) this.look(this.view);
    this.setFrame(this.frame);
  }

  /** Shows another motion of the same body beside, as a pale figure; null takes it away. */
  setPale(motion: Motion | null): void {
    this.beside.setPale(motion);
    this.askDraw();
  }

  /** Shows other performers of the same world. */
  setCompany(company: readonly StageCompany[]): void {
    const before = this.beside.companyPlaces().length;
    this.beside.setCompany(company);
    // Who comes or goes changes what a view has to show.
    if (company.length !== before && !isCloseUp(this.view)) this.look(this.view);
    this.askDraw();
  }

  /** Shows the figure in frames around the shown one as well, or not. */
  setGhosts(on: boolean): void {
    this.beside.setGhosts(on);
    this.askDraw();
  }

  /** Shows the ways of hands, feet and head about the shown frame, or leaves them out. */
  setTrails(on: boolean): void {
    this.beside.setTrails(on);
    this.askDraw();
  }

  /** Lets the picture stand in the stage. */
  setPicture(video: HTMLVideoElement | null, place: PicturePlace): void {
    this.beside.setPicture(video, place);
    this.askDraw();
  }

  private newFigure(): void {
    if (this.figure) {
      this.scene.remove(this.figure.mesh);
      this.figure.dispose();
    }
    this.figure = this.motion && new FigureMesh(this.motion, stageColours());
    if (!this.figure) return;
    this.scene.add(this.figure.mesh);
    this.figure.pose(this.frame);
  }

  setFrame(frame: number): void {
    this.frame = frame;
    this.figure?.pose(frame);
    this.beside.setFrame(frame);
    const at = this.middle();
    if (this.following && this.pictureShape === null) {
      const up = isCloseUp(this.view) ? at.y - this.last.y : 0;
      const way = new Vector3(at.x - this.last.x, up, at.z - this.last.z);
      this.camera.position.add(way);
      this.controls.target.add(way);
      this.controls.update();
    }
    this.last.copy(at);
    this.askDraw();
  }

  /** Keeps beside the figure as it goes about, or stays where it is. */
  setFollowing(on: boolean): void {
    this.following = on;
  }

  /** Goes to a standard view of the place where the figure is now. */
  look(view: StandardView): void {
    this.view = view;
    const at = this.place();
    this.last.copy(this.middle());
    this.pictureShape = null;
    if (view === 'camera' && this.shot) {
      const { position, axes, width, height } = this.shot;
      this.pictureShape = width / height;
      this.camera.position.set(...position);
      const ahead = new Vector3(-axes[6], -axes[7], -axes[8]);
      const depth = at.clone().sub(this.camera.position).dot(ahead);
      this.controls.target.copy(this.camera.position).addScaledVector(ahead, Math.max(0.5, depth));
      this.camera.up.set(axes[3], axes[4], axes[5]);
    } else if (isCloseUp(view)) {
      this.camera.up.set(0, 1, 0);
      // From where the performer was filmed, so that it looks like the picture beside it.
      const from = this.shot ? new Vector3(...this.shot.position).sub(at).normalize() : new Vector3(0, 0, 1);
      this.controls.target.copy(at);
      this.camera.position.copy(at).addScaledVector(from, CLOSE[view].far);
    } else {
      this.camera.up.set(0, 1, 0);
      const middle = this.middle();
      const reach = Math.max(...this.everybody().map(({ x, z }) => Math.hypot(x - middle.x, z - middle.z)));
      // So far that all with their arms out fit in.
      const wide = (reach + 1) / (Math.tan((FIELD * Math.PI) / 360) * this.camera.aspect);
      const far = reach > 0 ? Math.max(FAR, wide) + reach / 2 : FAR;
      const direction = {
        front: new Vector3(0, 0.12, 1),
        left: new Vector3(1, 0.12, 0),
        right: new Vector3(-1, 0.12, 0),
        above: new Vector3(0, 1, 0.001),
        camera: new Vector3(0, 0.12, 1),
      }[view];
      this.controls.target.set(middle.x, 0.9, middle.z);
      this.camera.position.copy(this.controls.target).addScaledVector(direction.normalize(), far);
    }
    this.fit();
    this.controls.update();
    this.askDraw();
  }

  /** The angle of view for the canvas' shape: in the camera's view the whole picture fits in. */
  private fit(): void {
    const { shot, camera, pictureShape } = this;
    if (shot && pictureShape !== null)
      camera.fov =
        (2 * Math.atan((shot.height / 2 / shot.focal) * Math.max(1, pictureShape / camera.aspect)) * 180) / Math.PI;
    else camera.fov = FIELD;
    camera.updateProjectionMatrix();
  }

  /** Where the hips of all on the stage are in the shown frame. */
  private everybody(): Vector3[] {
    return [this.bodyPlace(), ...this.beside.companyPlaces()];
  }

  /** What a view goes along with: the middle of all on the stage, or the part that is looked at near by. */
  private middle(): Vector3 {
    const at = this.place();
    if (isCloseUp(this.view)) return at;
    const { x, z } = new Box3().setFromPoints(this.everybody()).getCenter(new Vector3());
    return at.set(x, at.y, z);
  }

  private place(): Vector3 {
    const { motion } = this;
    if (!motion) return new Vector3(0, 0.9, 0);
    if (isCloseUp(this.view) && this.figure) {
      const { bone, ahead } = CLOSE[this.view];
      const place = this.figure.placeOf(bone, ahead);
      if (place) return place;
    }
    return this.bodyPlace();
  }

  /** Where the hips are in the shown frame. */
  private bodyPlace(): Vector3 {
    const { motion } = this;
    if (!motion) return new Vector3(0, 0.9, 0);
    const f = Math.min(motion.frames - 1, Math.max(0, this.frame));
    return new Vector3().fromArray(motion.root, f * 3);
  }

  resize(width: number, height: number): void {
    if (width < 2 || height < 2) return;
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio || 1));
    this.renderer.setSize(width, height, false);
    this.camera.aspect = width / height;
    this.fit();
    this.askDraw();
  }

  /** Told after each drawing: what lies over the picture follows it. @returns what ends it. */
  onDraw(told: () => void): () => void {
    this.drawn.add(told);
    return () => this.drawn.delete(told);
  }

  /** Where the origin of a bone was drawn last on the canvas, pixels from its top left, and in the world; null without such a bone, or behind the eye. */
  project(bone: string): { x: number; y: number; place: Vector3 } | null {
    const place = this.figure?.drawnPlace(bone);
    if (!place) return null;
    const { x, y, z } = place.clone().project(this.camera);
    if (z > 1) return null;
    const { clientWidth, clientHeight } = this.renderer.domElement;
    return { x: ((x + 1) / 2) * clientWidth, y: ((1 - y) / 2) * clientHeight, place };
  }

  /**
   * A place moved as a pointer moves: in the plane through it that faces the eye.
   * @param dx, dy pixels to the right and down. @param away metres along the line of sight.
   */
  movedBy(place: Vector3, dx: number, dy: number, away = 0): Vector3 {
    const sight = this.sightTo(place);
    const ahead = this.camera.getWorldDirection(new Vector3());
    const depth = place.clone().sub(this.camera.position).dot(ahead);
    const perPixel =
      (2 * depth * Math.tan((this.camera.fov * Math.PI) / 360)) / Math.max(1, this.renderer.domElement.clientHeight);
    const right = new Vector3().setFromMatrixColumn(this.camera.matrixWorld, 0);
    const up = new Vector3().setFromMatrixColumn(this.camera.matrixWorld, 1);
    return place
      .clone()
      .addScaledVector(right, dx * perPixel)
      .addScaledVector(up, -dy * perPixel)
      .addScaledVector(sight, away);
  }

  /**
   * How far a pointer moves a place along a line, metres: by how the line runs over the canvas, and where one looks along it, upwards is away.
   * @param axis direction of the line, of length one. @param dx, dy pixels to the right and down.
   */
  movedAlong(place: Vector3, axis: Vector3, dx: number, dy: number): number {
    const { clientWidth, clientHeight } = this.renderer.domElement;
    const [from, to] = [place, place.clone().addScaledVector(axis, 0.1)].map((at) => at.clone().project(this.camera));
    const [x, y] = [((to.x - from.x) / 2) * clientWidth, ((from.y - to.y) / 2) * clientHeight];
    const seen = Math.hypot(x, y);
    if (seen < SEEN_ALONG) return dy * PER_PIXEL * (this.sightTo(place).dot(axis) > 0 ? -1 : 1);
    return (0.1 * (dx * x + dy * y)) / (seen * seen);
  }

  /** The direction from the eye to a place, of length one. */
  sightTo(place: Vector3): Vector3 {
    return place.clone().sub(this.camera.position).normalize();
  }

  /** World places of the bones that are drawn now: for tests and for readers of the screen. */
  bonePlaces(): Record<string, number[]> {
    const places: Record<string, number[]> = {};
    for (const { name } of this.figure?.mesh.skeleton.bones ?? [])
      places[name] = this.figure?.drawnPlace(name)?.toArray() ?? [];
    return places;
  }

  /** Where one looks from: for tests and for readers of the screen. */
  eyePlace(): number[] {
    return this.camera.position.toArray();
  }

  private askDraw(): void {
    if (this.asked) return;
    this.asked = requestAnimationFrame(() => {
      this.asked = 0;
      const at = this.place();
      this.lamp.target.position.set(at.x, 0.8, at.z);
      this.lamp.position.set(at.x + 0.9, 4.6, at.z + 1.3);
      this.beside.stand(this.shot, this.bodyPlace(), this.camera.position);
      this.renderer.render(this.scene, this.camera);
      for (const told of this.drawn) told();
    });
  }

  dispose(): void {
    cancelAnimationFrame(this.asked);
    this.controls.dispose();
    this.figure?.dispose();
    this.beside.dispose();
    this.renderer.dispose();
  }
}
