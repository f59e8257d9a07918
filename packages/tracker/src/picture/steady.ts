import type { Region } from './picture';

/**
 * Moves a region towards the next one by a share. Steadying must not fall behind: what moves by more
 * than a share of the square is followed at once.
 * @param weight of the new region, 0 … 1.
 */
export function steadyRegion(before: Region, next: Region, weight: number): Region {
  const turn = Math.atan2(Math.sin(next.angle - before.angle), Math.cos(next.angle - before.angle));
  const far = Math.hypot(next.x - before.x, next.y - before.y) / before.size;
  const k = Math.min(1, Math.max(weight, far * 8));
  return {
    x: before.x + (next.x - before.x) * k,
    y: before.y + (next.y - before.y) * k,
    size: before.size + (next.size - before.size) * k,
    angle: before.angle + turn * k,
  };
}
