import type { Region } from '../picture/picture';

const SCALE = 1.25;

/** The square round a body: centred on the hips, reaching to the full-body circle, upright along the body. */
export function bodyRegion(hipX: number, hipY: number, circleX: number, circleY: number): Region {
  const turn = Math.PI / 2 - Math.atan2(hipY - circleY, circleX - hipX);
  const angle = turn - 2 * Math.PI * Math.floor((turn + Math.PI) / (2 * Math.PI));
  return { x: hipX, y: hipY, size: 2 * Math.hypot(circleX - hipX, circleY - hipY) * SCALE, angle };
}
