import type { CameraMotion } from '@merry-shadow/core/camera/camera-motion';
import { BackgroundWatch } from '../background/background-watch';
import type { Box } from '../background/box';
import type { Picture } from '../picture/picture';

/** How fast a camera moves in some pictures that follow each other closely. */
export class CameraSpeed {
  private readonly background: BackgroundWatch;
  private readonly moved: (CameraMotion | null)[] = [];

  constructor(
    private readonly width: number,
    private readonly height: number,
  ) {
    this.background = new BackgroundWatch(width, height);
  }

  next(picture: Picture, people: readonly Box[]): void {
    const told = this.background.next(picture, people);
    this.moved.push(null);
    // A movement that is proven only now is told for the pictures before, too.
    told.forEach((motion, i) => {
      const at = this.moved.length - told.length + i;
      if (at >= 0) this.moved[at] = Number.isFinite(motion[0]) ? motion : null;
    });
  }

  /** Parts of the picture's long side in a second, the mean over all steps; null where too little is told. @param seconds between two pictures. */
  speed(seconds: number): number | null {
    const told = this.moved.slice(1).filter((motion) => motion !== null);
    if (told.length < this.moved.length / 2) return null;
    const way = told.reduce(
      (sum, [right, down, turn, growth]) =>
        sum + Math.hypot(right, down) / Math.max(this.width, this.height) + (Math.abs(turn) + Math.abs(growth)) / 2,
      0,
    );
    return way / (told.length * seconds);
  }
}
