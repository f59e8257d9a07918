import { loadLiteRt, Tensor } from '@litertjs/core';
import { FaceGeometryView } from '@merry-shadow/contracts/face-geometry';
import type { FaceGeometry } from '@merry-shadow/core/face/head-turn';
import { emptyObservations, type CapturedParts } from '@merry-shadow/core/observe/observations';
import { boxRound } from '@merry-shadow/tracker/background/box';
import { bodyLight } from '@merry-shadow/tracker/looks/body-measures';
import { CameraSpeed } from '@merry-shadow/tracker/looks/camera-speed';
import { PerformerTracker } from '@merry-shadow/tracker/performer/performer-tracker';
import { recordFrame } from '@merry-shadow/tracker/performer/record';
import type { Picture } from '@merry-shadow/tracker/picture/picture';
import { neededNets, type NetName, type Nets } from '@merry-shadow/tracker/runtime/net';
import { openWasmNet } from '@merry-shadow/tracker/runtime/wasm-net';
import type { LiveAnswer, LiveOrder } from './live-protocol';

/** Tracks camera frames off the main thread. One frame is worked on at a time; the view sends the next when this one is answered. */
const answer = (message: LiveAnswer, transfer: Transferable[] = []): void => postMessage(message, { transfer });
let tracker: { follow: PerformerTracker; parts: CapturedParts } | null = null;
let canvas: OffscreenCanvas | null = null;
/** How the camera moves is told anew after so many pictures. */
const SPELL = 12;
let spell: { camera: CameraSpeed; pictures: number; seconds: number } | null = null;
let cameraSpeed: number | null = null;
let picture: { width: number; height: number; data: Uint8Array } | null = null;

/** Networks that are open, and the wasm runtime they run on: each is fetched when it is first needed. */
const nets: Partial<Nets> = {};
let runtime: ReturnType<typeof loadLiteRt> | null = null;
let geometry: FaceGeometry | undefined;

async function fetched(name: string): Promise<Response> {
  const response = await fetch(`/api/networks/${name}`);
  if (!response.ok) throw new Error('The networks could not be fetched from the server.');
  return response;
}

async function openNet(name: NetName): Promise<void> {
  if (nets[name]) return;
  // The runtime would look for its binary beside this worker.
  Object.assign(self, { Module: { locateFile: (file: string) => `/wasm/${file}` } });
  const litert = await (runtime ??= loadLiteRt('/wasm/'));
  nets[name] = await openWasmNet({ litert, Tensor }, new Uint8Array(await (await fetched(name)).arrayBuffer()));
}

/** Follows these parts from now on. */
async function follow(parts: CapturedParts): Promise<void> {
  for (const name of neededNets(parts)) await openNet(name);
  if (parts.face) geometry ??= FaceGeometryView.parse(await (await fetched('face-geometry')).json());
  tracker = { follow: new PerformerTracker(nets as Nets, { quick: true, geometry, ...parts }), parts };
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

async function look(order: Extract<LiveOrder, { seconds: number }>): Promise<void> {
  if (!tracker) return;
  const begin = performance.now();
  const frame = read(order.picture);
  const observations = emptyObservations(1, 30, frame.width, frame.height, tracker.parts);
  const seen = await tracker.follow.next(frame, order.seconds);
  if (seen) recordFrame(observations, 0, seen);
  const body = seen?.body ?? null;
  const [hx, hy, cx, cy] = body?.guides ?? [0, 0, 0, 0];
  const shown = body && { marks: body.marks, tall: 2 * Math.hypot(cx - hx, cy - hy) };
  // The picture goes back with its marks, so that both are shown together.
  answer(
    {
      picture: order.picture,
      observations,
      light: (shown && bodyLight(frame, shown)?.light) ?? null,
      camera: watchCamera(frame, body?.marks ?? null, order.seconds),
      took: performance.now() - begin,
    },
    [order.picture],
  );
}

/** Orders are carried out one after the other. */
let work = Promise.resolve();
self.onmessage = ({ data }: MessageEvent<LiveOrder>) => {
  work = work
    .then(() => ('parts' in data ? follow(data.parts) : look(data)))
    .catch((error: Error) => answer({ problem: error.message }));
};
