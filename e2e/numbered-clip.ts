import { execFileSync } from 'node:child_process';
import type { Page } from '@playwright/test';

const BITS = 8;
const BLOCK = 40;

/** A clip with a long group of pictures that carries each frame's number as white (1) and black (0) blocks, lowest bit first. */
export function makeNumberedClip(path: string, frames: number, rate: number): void {
  execFileSync('ffmpeg', [
    '-y',
    '-loglevel',
    'error',
    '-f',
    'lavfi',
    '-i',
    `color=c=gray:s=${BITS * BLOCK}x240:r=${rate}`,
    '-frames:v',
    String(frames),
    '-vf',
    `geq=lum='if(lt(Y,${BLOCK}),255*mod(floor(N/pow(2,floor(X/${BLOCK}))),2),128)':cb=128:cr=128`,
    '-c:v',
    'libx264',
    '-g',
    '250',
    '-bf',
    '3',
    '-pix_fmt',
    'yuv420p',
    path,
  ]);
}

/** Puts the reader into the page: the number in the picture that the video shows now, and the number that the screen tells. */
async function prepareReader(page: Page): Promise<void> {
  await page.evaluate(
    ([bits, block]) => {
      const canvas = document.createElement('canvas');
      [canvas.width, canvas.height] = [bits, 1];
      const context = canvas.getContext('2d', { willReadFrequently: true }) as CanvasRenderingContext2D;
      context.imageSmoothingEnabled = false;
      const read = (): { picture: number; told: number } => {
        context.drawImage(
          document.querySelector('video') as HTMLVideoElement,
          0,
          block / 2,
          bits * block,
          1,
          0,
          0,
          bits,
          1,
        );
        const { data } = context.getImageData(0, 0, bits, 1);
        let picture = 0;
        for (let bit = 0; bit < bits; bit++) if (data[bit * 4] > 128) picture += 2 ** bit;
        return {
          picture,
          told: Number(document.querySelector('[data-testid=frame]')?.textContent?.match(/frame (\d+)/)?.[1]),
        };
      };
      Object.assign(window, { read });
    },
    [BITS, BLOCK],
  );
}
type Reader = { read: () => { picture: number; told: number } };

export async function readNumbers(page: Page): Promise<{ picture: number; told: number }> {
  await prepareReader(page);
  return page.evaluate(() => (window as unknown as Reader).read());
}

/** Reads at the moments when the browser says that a new picture is on the screen; `announced` is the frame it names. */
export async function readWhilePlaying(
  page: Page,
  count: number,
  rate: number,
): Promise<{ announced: number; told: number }[]> {
  await prepareReader(page);
  return page.evaluate(
    async ([wanted, framesPerSecond]) => {
      const video = document.querySelector('video') as HTMLVideoElement;
      const rows = [];
      while (rows.length < wanted) {
        const announced = await new Promise<number>((resolve) =>
          video.requestVideoFrameCallback((_now, { mediaTime }) => resolve(Math.round(mediaTime * framesPerSecond))),
        );
        rows.push({ announced, told: (window as unknown as Reader).read().told });
      }
      return rows;
    },
    [count, rate],
  );
}
