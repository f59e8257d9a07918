import { onUnmounted, shallowRef } from 'vue';
import type { CapturedParts } from '@merry-shadow/core/observe/observations';
import { TRACKED, useLiveTracking } from './live-tracking';

const REFUSALS: Record<string, string> = {
  NotAllowedError: 'The browser was not allowed to use the camera. Allow it in the address bar and try again.',
  NotFoundError: 'No camera was found. Plug one in and try again.',
  NotReadableError: 'The camera is in use by another program. Close that and try again.',
};

/** What camera and microphone are asked for; '' and 0 leave it to the browser, `microphone: null` asks for no sound. */
export interface CameraWish {
  camera: string;
  microphone: string | null;
  width: number;
  height: number;
  rate: number;
}

/** Asks for camera and microphone; a computer without a microphone records without sound. */
async function ask({ camera, microphone, width, height, rate }: CameraWish): Promise<MediaStream> {
  const video = {
    ...(camera && { deviceId: { exact: camera } }),
    width: { ideal: width },
    height: { ideal: height },
    frameRate: { ideal: rate },
  };
  // Voices and steps as they are: echo and noise are not taken out.
  const sound = { echoCancellation: false, noiseSuppression: false };
  const audio = microphone !== null && { ...(microphone && { deviceId: { exact: microphone } }), ...sound };
  try {
    return await navigator.mediaDevices.getUserMedia({ video, audio });
  } catch (error) {
    if (audio === false || (error as Error).name !== 'NotFoundError') throw error;
    return navigator.mediaDevices.getUserMedia({ video, audio: false });
  }
}

/** A webcam whose frames are tracked. */
export function useLiveCamera(wanted: () => CapturedParts) {
  const tracking = useLiveTracking(wanted);
  const { state, problem } = tracking;
  const stream = shallowRef<MediaStream | null>(null);
  let video: HTMLVideoElement | null = null;
  let callback = 0;
  /** Counts starts and stops: a camera that is allowed after one has left is let go at once. */
  let turn = 0;

  async function start(element: HTMLVideoElement, wish: CameraWish): Promise<void> {
    stop();
    const own = turn;
    problem.value = '';
    state.value = 'asking';
    try {
      const allowed = await ask(wish);
      if (own !== turn) return allowed.getTracks().forEach((track) => track.stop());
      stream.value = allowed;
    } catch (error) {
      if (own !== turn) return;
      state.value = 'off';
      problem.value = REFUSALS[(error as Error).name] ?? `The camera can't be used: ${(error as Error).message}`;
      return;
    }
    state.value = 'loading';
    video = element;
    element.srcObject = stream.value;
    await element.play().catch(() => undefined);
    if (own === turn) tracking.open(wait, fail);
  }

  function wait(): void {
    const shown = video;
    if (!shown) return;
    callback = shown.requestVideoFrameCallback((now) => {
      wait();
      void tracking.offer(now, () => {
        const scale = Math.min(1, TRACKED / Math.max(shown.videoWidth, shown.videoHeight));
        return createImageBitmap(shown, {
          resizeWidth: Math.round(shown.videoWidth * scale),
          resizeHeight: Math.round(shown.videoHeight * scale),
        });
      });
    });
  }

  function fail(message: string): void {
    stop();
    problem.value = message;
  }

  function stop(): void {
    turn++;
    video?.cancelVideoFrameCallback(callback);
    if (video) video.srcObject = null;
    for (const track of stream.value?.getTracks() ?? []) track.stop();
    video = null;
    stream.value = null;
    tracking.close();
  }
  onUnmounted(stop);
  return { ...tracking, stream, start, stop };
}
