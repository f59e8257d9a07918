import { loadLiteRt, Tensor } from '@litertjs/core';
import { BodyTracker } from '@merry-shadow/tracker/body/body-tracker';
import { boxRound } from '@merry-shadow/tracker/background/box';
import { bodyLight } from '@merry-shadow/tracker/looks/body-measures';
import { CameraSpeed } from '@merry-shadow/tracker/looks/camera-speed';
import type { Picture } from '@merry-shadow/tracker/picture/picture';
import type { Net } from '@merry-shadow/tracker/runtime/net';
import { openWasmNet } from '@merry-shadow/tracker/runtime/wasm-net';
import type { LiveAnswer, LiveOrder } from './live-protocol';

/** Tracks camera frames off the main thread. One frame is worked on at a time; the view sends the next when this one is answered. */
const answer = (message: LiveAnswer, transfer: Transferable[] = []): void => postMessage(message, { transfer });
let tracker: BodyTracker | null = null;
let canvas: OffscreenCanvas | null = null;
/** How the camera moves is told anew after so many pictures. */
const SPELL = 12;
let spell: { camera: CameraSpeed; pictures: number; seconds: number } | null = null;
let cameraSpeed: number | null = null;
let picture: { width: number; height: number; data: Uint8Array } | null = null;

async function open(): Promise<void> {
  // The runtime would look for its binary beside this worker.
  Object.assign(self, { Module: { locateFile: (name: string) => `/wasm/${name}` } });
  const litert = await loadLiteRt('/wasm/');
  const net = async (name: string): Promise<Net> => {
    const response = await fetch(`/api/networks/${name}`);
    if (!response.ok) throw new Error('The networks could not be fetched from the server.');
    return openWasmNet({ litert, Tensor }, new Uint8Array(await response.arrayBuffer()));
  };
  tracker = new BodyTracker(
    { bodyDetector: await net('bodyDetector'), bodyMarks: await net('bodyMarks') },
    { quick: true },
  );
  answer({ state: 'ready' });
}

/** The pixels of a camera frame, three bytes each. */
function read(bitmap: ImageBitmap): Picture {
  const { width, height } = bitmap;
  if (!canvas || canvas.width !== width || canvas.height !== height) canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('This browser gives no access to the pixels of the camera.');
  context.drawImage(bitmap, 0, 0);
  const { data } = context.getImageData(0, 0, width, height);
  if (!picture || picture.width !== width || picture.height !== height)
    picture = { width, height, data: new Uint8Array(width * height * 3) };
  for (let i = 0, k = 0; i < data.length; i += 4, k += 3) {
    picture.data[k] = data[i];
    picture.data[k + 1] = data[i + 1];
    picture.data[k + 2] = data[i + 2];
  }
  return picture;
}

/** How fast the camera moves, told spell by spell. */
function watchCamera(frame: Picture, marks: Float32Array | null, seconds: number): number | null {
  spell ??= { camera: new CameraSpeed(frame.width, frame.height), pictures: 0, seconds: 0 };
  spell.camera.next(frame, marks ? [boxRound(marks)] : []);
  spell.seconds += seconds;
  if (++spell.pictures < SPELL) return cameraSpeed;
  cameraSpeed = spell.camera.speed(spell.seconds / spell.pictures);
  spell = null;
  return cameraSpeed;
}

self.onmessage = async ({ data }: MessageEvent<LiveOrder>) => {
  try {
    const begin = performance.now();
    const frame = read(data.picture);
    const body = (await tracker?.next(frame, data.seconds)) ?? null;
    const [hx, hy, cx, cy] = body?.guides ?? [0, 0, 0, 0];
    const shown = body && { marks: body.marks, tall: 2 * Math.hypot(cx - hx, cy - hy) };
    // The picture goes back with its marks, so that both are shown together.
    answer(
      {
        picture: data.picture,
        marks: body?.marks ?? null,
        world: body?.world ?? null,
        presence: body?.presence ?? 0,
        light: (shown && bodyLight(frame, shown)?.light) ?? null,
        camera: watchCamera(frame, body?.marks ?? null, data.seconds),
        width: frame.width,
        height: frame.height,
        took: performance.now() - begin,
      },
      [data.picture],
    );
  } catch (error) {
    answer({ problem: (error as Error).message });
  }
};
open().catch((error: Error) => answer({ problem: error.message }));
