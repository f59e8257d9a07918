import { ShotWatch } from '../picture/shot-watch';
import { COLUMNS, ROWS } from '../picture/small-picture';

const SQUARES = COLUMNS * ROWS;

/**
 * What the small pictures of all frames tell: where other shots begin, and which part of the frames is doubled.
 * @param pictures 32 × 18 grey levels of two bytes for each frame, the lower byte first. @param rate frames a second.
 */
export function frameChanges(pictures: Uint8Array, rate: number): { cuts: number[]; doubled: number } {
  const levels = new Uint16Array(pictures.slice().buffer, 0, pictures.length >> 1);
  const shots = new ShotWatch(rate);
  const frames = Math.floor(pictures.length / (2 * SQUARES));
  const cuts: number[] = [];
  let doubled = 0;
  for (let frame = 0; frame < frames; frame++) {
    const small = Float32Array.from(levels.subarray(frame * SQUARES, (frame + 1) * SQUARES));
    for (let i = 0; i < SQUARES; i++) small[i] /= 257;
    const news = shots.next(small);
    if (news.begins) cuts.push(frame);
    doubled += news.doubled;
  }
  return { cuts, doubled: frames > 0 ? doubled / frames : 0 };
}
