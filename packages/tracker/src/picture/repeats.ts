/** A picture is the same again when no square of it changed by more than this, grey levels, … */
const SAME = 0.8;
/** … and was doubled when some square changed by more than this both right before and right after: who comes to rest does so by and by. */
const MOVING = 5;

/**
 * Notices pictures that a recorder or an editor doubled, and stills amid a movement: they show no moment of their own. In footage in which
 * hardly anything moves none is told, and nothing is lost by that.
 */
export class RepeatWatch {
  private before: Float32Array | null = null;
  /** Change of the last picture that was not the same, and how many were since. */
  private change = 0;
  private same = 0;

  /** @param now see `smallPicture`. @returns how many pictures right before this one were the same as the one before them; 0 where none was, or while they go on. */
  next(now: Float32Array): number {
    const { before } = this;
    this.before = now;
    if (!before) return 0;
    let most = 0;
    for (let i = 0; i < now.length; i++) most = Math.max(most, Math.abs(now[i] - before[i]));
    if (most < SAME) {
      this.same++;
      return 0;
    }
    const doubled = this.change > MOVING && most > MOVING ? this.same : 0;
    this.change = most;
    this.same = 0;
    return doubled;
  }
}
