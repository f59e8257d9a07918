import { CutWatch } from '../picture/cuts';
import { FadeWatch } from '../picture/fades';
import { RepeatWatch } from '../picture/repeats';
import { COLUMNS, ROWS } from '../picture/small-picture';

/** Bytes of a small picture as it is kept: two for each square, the lower one first. */
export const SMALL_PICTURE_BYTES = COLUMNS * ROWS * 2;

/** What the small pictures of all frames tell: where other shots begin, and which part of the frames is doubled. */
export function frameChanges(pictures: Uint8Array, rate: number): { cuts: number[]; doubled: number } {
  const cuts: number[] = [];
  const [hard, fades, repeats] = [new CutWatch(), new FadeWatch(rate), new RepeatWatch()];
  const frames = Math.floor(pictures.length / SMALL_PICTURE_BYTES);
  const view = new DataView(pictures.buffer, pictures.byteOffset, pictures.byteLength);
  let doubled = 0;
  for (let frame = 0; frame < frames; frame++) {
    const small = Float32Array.from(
      { length: COLUMNS * ROWS },
      (_, i) => view.getUint16(frame * SMALL_PICTURE_BYTES + i * 2, true) / 257,
    );
    const cut = hard.next(small);
    if (cut) fades.reset();
    if (cut || fades.next(small) > 0) cuts.push(frame);
    doubled += repeats.next(small);
  }
  return { cuts, doubled: frames > 0 ? doubled / frames : 0 };
}
