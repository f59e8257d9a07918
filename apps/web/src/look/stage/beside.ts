import { Group, type Vector3 } from 'three';
import type { PinholeCamera } from '@merry-shadow/core/camera/pinhole';
import type { Motion } from '@merry-shadow/core/motion/motion';
import type { PicturePlace } from '../../take/stage-controls';
import { stageColours } from './colours';
import { FigureMesh } from './figure-mesh';
import { Ghosts } from './ghosts';
import { PicturePlane } from './picture-plane';
import { Trails } from './trails';

/** Another performer in the same world. @param colour of CSS; null for the figure's own. */
export interface StageCompany {
  motion: Motion;
  colour: string | null;
}

/** What stands beside the figure on the stage: other performers, a pale figure of another motion, ghosts of other frames, trails, the picture. */
export class Beside {
  readonly group = new Group();
  private company: { shown: StageCompany; figure: FigureMesh }[] = [];
  private pale: { figure: FigureMesh; motion: Motion } | null = null;
  private ghosts: Ghosts | null = null;
  private trails: Trails | null = null;
  private picture: PicturePlane | null = null;
  private wantsGhosts = false;
  private motion: Motion | null = null;
  private frame = 0;

  /** Takes the colours of the current lighting. */
  paint(): void {
    const pale = this.pale?.motion ?? null;
    this.setPale(null);
    this.setPale(pale);
    const company = this.company.map(({ shown }) => shown);
    this.setCompany([]);
    this.setCompany(company);
    this.setTrails(this.trails !== null);
    this.setGhosts(this.wantsGhosts);
  }

  /** The motion that the figure shows. */
  setMotion(motion: Motion | null): void {
    const sameBody = motion !== null && motion.skeleton === this.motion?.skeleton;
    this.motion = motion;
    if (sameBody) this.ghosts?.setMotion(motion);
    else this.setGhosts(this.wantsGhosts);
  }

  /** Shows another motion of the same body as a pale figure; null takes it away. */
  setPale(motion: Motion | null): void {
    if (motion && this.pale?.motion.skeleton === motion.skeleton) {
      this.pale.motion = motion;
      this.pale.figure.setMotion(motion);
    } else {
      if (this.pale) this.group.remove(this.pale.figure.mesh);
      this.pale?.figure.dispose();
      this.pale = motion && { motion, figure: new FigureMesh(motion, stageColours(), true) };
      if (this.pale) this.group.add(this.pale.figure.mesh);
    }
    this.pale?.figure.pose(this.frame);
  }

  /** Shows other performers. Whose body stays the same is not made anew. */
  setCompany(company: readonly StageCompany[]): void {
    const before = this.company;
    this.company = company.map((shown) => {
      const known = before.find(
        ({ shown: { motion, colour } }) => motion.skeleton === shown.motion.skeleton && colour === shown.colour,
      );
      const colours = stageColours();
      const figure =
        known?.figure ?? new FigureMesh(shown.motion, { ...colours, middle: shown.colour ?? colours.middle });
      figure.setMotion(shown.motion);
      figure.pose(this.frame);
      this.group.add(figure.mesh);
      return { shown, figure };
    });
    for (const { figure } of before)
      if (this.company.every((now) => now.figure !== figure)) {
        this.group.remove(figure.mesh);
        figure.dispose();
      }
  }

  /** Where the hips of other performers are in the shown frame. */
  companyPlaces(): Vector3[] {
    return this.company.map(({ figure }) => figure.mesh.skeleton.bones[0].position.clone());
  }

  /** Shows the figure as it stands in frames around the shown one, or leaves that out. */
  setGhosts(on: boolean): void {
    if (this.ghosts) this.group.remove(this.ghosts.group);
    this.ghosts?.dispose();
    this.wantsGhosts = on;
    this.ghosts = on && this.motion ? new Ghosts(this.motion, stageColours()) : null;
    if (this.ghosts) this.group.add(this.ghosts.group);
    this.ghosts?.pose(this.frame);
  }

  /** Shows the ways of hands, feet and head about the shown frame, or leaves them out. */
  setTrails(on: boolean): void {
    if (this.trails) this.group.remove(this.trails.group);
    this.trails?.clear();
    this.trails = on ? new Trails(stageColours()) : null;
    if (this.trails) this.group.add(this.trails.group);
    this.trail();
  }

  /** Lets the picture stand in the stage; nowhere without a video. */
  setPicture(video: HTMLVideoElement | null, place: PicturePlace): void {
    if (this.picture) this.group.remove(this.picture.mesh);
    this.picture?.dispose();
    this.picture = video && place !== 'off' ? new PicturePlane(video, place) : null;
    if (this.picture) this.group.add(this.picture.mesh);
  }

  setFrame(frame: number): void {
    this.frame = frame;
    for (const { figure } of this.company) figure.pose(frame);
    this.pale?.figure.pose(frame);
    this.ghosts?.pose(frame);
    this.trail();
  }

  /** Called before each drawing. @param at where the figure is. @param eye where one looks from. */
  stand(shot: PinholeCamera | null, at: Vector3, eye: Vector3): void {
    if (!this.picture) return;
    this.picture.mesh.visible = shot !== null;
    if (shot) this.picture.stand(shot, at, eye);
  }

  private trail(): void {
    const { motion } = this;
    if (motion) this.trails?.show(motion, Math.min(motion.frames - 1, Math.max(0, this.frame)));
    else this.trails?.clear();
  }

  dispose(): void {
    this.setCompany([]);
    this.setPale(null);
    this.setGhosts(false);
    this.setTrails(false);
    this.setPicture(null, 'off');
  }
}
