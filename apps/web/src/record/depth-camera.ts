import { onUnmounted, shallowRef } from 'vue';
import { colourFieldOfView, type DepthRig } from '@merry-shadow/core/camera/depth-rig';
import { MARK } from '@merry-shadow/core/observe/body';
import type { CapturedParts } from '@merry-shadow/core/observe/observations';
import { WATCHED_MARKS, type WatchedPart } from '@merry-shadow/core/judge/parts-seen';
import type { RecordingNews } from '@merry-shadow/contracts/depth-camera';
import { WatchedHead, type DepthCameraView } from '@merry-shadow/contracts/depth-camera';
import { MessageReader, type FramedMessage } from '@merry-shadow/contracts/framed-message';
import { registerDepth } from '@merry-shadow/tracker/depth/register-depth';
import { depthAt, type DepthMap } from '@merry-shadow/tracker/depth/sample-depth';
import { watchDepthCamera } from '../api/client';
import { TRACKED, useLiveTracking } from './live-tracking';

/** Pixels of the registered map about a mark at which depth is looked for. */
const REACH = 3;

/** A depth camera that a bridge brings: its pictures are tracked, its maps shown. */
export function useDepthCamera(wanted: () => CapturedParts) {
  const tracking = useLiveTracking(wanted);
  const { problem } = tracking;
  const camera = shallowRef<DepthCameraView | null>(null);
  const map = shallowRef<DepthMap | null>(null);
  const news = shallowRef<RecordingNews | null>(null);
  let leaving: AbortController | null = null;

  function start(chosen: DepthCameraView): void {
    stop();
    problem.value = '';
    camera.value = chosen;
    tracking.open(() => void look(chosen), fail);
  }

  async function look(chosen: DepthCameraView): Promise<void> {
    const own = new AbortController();
    leaving = own;
    try {
      const reader = new MessageReader();
      const pieces = (await watchDepthCamera(chosen.id, own.signal)).getReader();
      for (let next = await pieces.read(); next.value; next = await pieces.read())
        for (const message of reader.add(next.value)) take(message, chosen);
      if (!own.signal.aborted) fail('The depth camera went away. Its bridge may have ended.');
    } catch (error) {
      if (!own.signal.aborted) fail((error as Error).message);
    }
  }

  function take({ head, body }: FramedMessage, { rig, colourFormat }: DepthCameraView): void {
    const told = WatchedHead.parse(head);
    if (told.type === 'recording') news.value = told;
    else if (told.type === 'depth') {
      const { width, height } = rig.depth;
      map.value = { width, height, data: new Uint16Array(body.slice().buffer) };
    } else {
      void tracking.offer(performance.now(), () => pictureOf(body.slice(), rig, colourFormat));
    }
  }

  function fail(message: string): void {
    stop();
    problem.value = message;
  }

  function stop(): void {
    leaving?.abort();
    leaving = null;
    camera.value = null;
    map.value = null;
    news.value = null;
    tracking.close();
  }
  onUnmounted(stop);
  return { ...tracking, camera, map, news, start, stop };
}

/** A colour frame, made small enough to be tracked. */
async function pictureOf(
  bytes: Uint8Array<ArrayBuffer>,
  { colour: { width, height } }: DepthRig,
  format: DepthCameraView['colourFormat'],
): Promise<ImageBitmap> {
  const scale = Math.min(1, TRACKED / Math.max(width, height));
  const size = { resizeWidth: Math.round(width * scale), resizeHeight: Math.round(height * scale) };
  if (format === 'jpeg') return createImageBitmap(new Blob([bytes], { type: 'image/jpeg' }), size);
  const pixels = new ImageData(width, height);
  for (let i = 0, k = 0; k < bytes.length; i += 4, k += 3) {
    pixels.data.set(bytes.subarray(k, k + 3), i);
    pixels.data[i + 3] = 255;
  }
  return createImageBitmap(pixels, size);
}

/** Of which parts depth is told at all their marks. @param marks 33 × (x, y, visibility), pixels of a picture of this width. */
export function partsWithDepth(
  map: DepthMap,
  rig: DepthRig,
  marks: ArrayLike<number>,
  width: number,
): Record<WatchedPart, boolean> {
  const registered = registerDepth(map, rig);
  const scale = registered.width / width;
  const told = (name: keyof typeof MARK): boolean =>
    Number.isFinite(depthAt(registered, marks[MARK[name] * 3] * scale, marks[MARK[name] * 3 + 1] * scale, REACH));
  const entries = Object.entries(WATCHED_MARKS).map(([part, names]) => [part, names.every(told)]);
  return Object.fromEntries(entries) as Record<WatchedPart, boolean>;
}

/** What a depth camera is, in a line. */
export const depthCameraWords = ({ rig, colourRate, depthRate }: DepthCameraView): string =>
  `${rig.colour.width} × ${rig.colour.height} px, ${colourRate.toFixed(0)} frames/s, ${colourFieldOfView(rig).toFixed(0)}° · depth ${rig.depth.width} × ${rig.depth.height} px, ${depthRate.toFixed(0)} frames/s`;
