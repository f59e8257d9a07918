import { ShotWatch } from '../picture/shot-watch';
import { COLUMNS, ROWS } from '../picture/small-picture';

const SQUARES = COLUMNS * ROWS;

/**
 * What the small pictures of all frames tell: where other shots begin, and which part of the frames is doubled.
 * @param pictures 32 × 18 grey levels of two bytes for each frame, the lower byte first. @param rate frames a second.
 */
export function frameChanges(pictures: Uint8Array, rate: number): { cuts: number[]; doubled: number } {
  const view = new DataView(pictures.buffer, pictures.byteOffset, pictures.byteLength);
  const shots = new ShotWatch(rate);
  const frames = Math.floor(pictures.length / (2 * SQUARES));
  const cuts: number[] = [];
  let doubled = 0;
  for (let frame = 0; frame < frames; frame++) {
    const small = Float32Array.from(
      { length: SQUARES },
      (_, i) => view.getUint16((frame * SQUARES + i) * 2, true) / 257,
    );
    const news = shots.next(small);
    if (news.begins) cuts.push(frame);
    doubled += news.doubled;
  }
  return { cuts, doubled: frames > 0 ? doubled / frames : 0 };
}
