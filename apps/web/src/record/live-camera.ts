import { onUnmounted, ref, shallowRef } from 'vue';
import { MARK_COUNT } from '@merry-shadow/core/observe/body';
import { emptyObservations, type Observations } from '@merry-shadow/core/observe/observations';
import { startLiveWorker } from './live-worker-address';
import { liveAdvice, crossesArms, type LiveAdvice } from '@merry-shadow/core/judge/live-advice';
import type { LiveAnswer, LiveOrder } from './live-protocol';

export type LiveState = 'off' | 'asking' | 'loading' | 'on';
/** The long side of the pictures that are tracked, pixels: recording goes on in full size. */
const TRACKED = 640;
/** Frames over which the shown rate is averaged. */
const RATE_FRAMES = 20;

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

/** An advice is given once it has held for so many milliseconds, and taken back as slowly; a sign counts after so many. */
const ADVICE_MS = 700;
const SIGN_MS = 900;

/** A camera whose frames are tracked as fast as this computer can; frames that come meanwhile are left out. */
export function useLiveCamera() {
  const state = ref<LiveState>('off');
  const problem = ref('');
  const rate = ref(0);
  const took = ref(0);
  const seen = shallowRef<{ picture: ImageBitmap; observations: Observations } | null>(null);
  /** What is wrong while one can still mend it. */
  const advice = ref<LiveAdvice | null>(null);
  /** Counts signs that were given with the arms crossed over the head. */
  const signs = ref(0);
  let told: { advice: LiveAdvice | null; since: number } = { advice: null, since: 0 };
  let signSince = 0;
  const stream = shallowRef<MediaStream | null>(null);
  let worker: Worker | null = null;
  let video: HTMLVideoElement | null = null;
  let callback = 0;
  let busy = false;
  let sentAt = 0;
  /** Counts starts and stops: a camera that is allowed after one has left is let go at once. */
  let turn = 0;
  const answered: number[] = [];

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
    if (own !== turn) return;
    worker = startLiveWorker();
    worker.onmessage = ({ data }: MessageEvent<LiveAnswer>) => take(data);
    worker.onerror = (event) => fail(event.message || 'The tracker could not be started.');
  }

  function take(data: LiveAnswer): void {
    if ('problem' in data) return fail(data.problem);
    if ('state' in data) {
      state.value = 'on';
      wait();
      return;
    }
    busy = false;
    took.value = data.took;
    const now = performance.now();
    answered.push(now);
    if (answered.length > RATE_FRAMES) answered.shift();
    rate.value = answered.length > 1 ? ((answered.length - 1) * 1000) / (now - answered[0]) : 0;
    const observations = emptyObservations(1, 30, data.width, data.height, { hands: false, face: false });
    if (data.marks && data.world) {
      observations.marks.set(data.marks.subarray(0, MARK_COUNT * 3));
      observations.world.set(data.world);
      observations.presence[0] = data.presence;
    }
    advise(data, now);
    seen.value?.picture.close();
    seen.value = { picture: data.picture, observations };
  }

  function advise({ marks, width, height, light, camera }: Extract<LiveAnswer, { took: number }>, now: number): void {
    const next = liveAdvice({ marks, width, height, light, camera });
    if (next !== told.advice) told = { advice: next, since: now };
    if (now - told.since >= ADVICE_MS) advice.value = told.advice;
    if (!marks || !crossesArms(marks)) signSince = 0;
    else if (signSince === 0) signSince = now;
    else if (signSince > 0 && now - signSince >= SIGN_MS) {
      signs.value++;
      // The same sign counts again only after it was let go.
      signSince = -1;
    }
  }

  function wait(): void {
    if (!video) return;
    callback = video.requestVideoFrameCallback(async (now) => {
      wait();
      if (busy || !video || !worker || state.value !== 'on') return;
      busy = true;
      const scale = Math.min(1, TRACKED / Math.max(video.videoWidth, video.videoHeight));
      const picture = await createImageBitmap(video, {
        resizeWidth: Math.round(video.videoWidth * scale),
        resizeHeight: Math.round(video.videoHeight * scale),
      });
      const seconds = sentAt ? Math.min(1, Math.max(0.005, (now - sentAt) / 1000)) : 1 / 30;
      sentAt = now;
      worker?.postMessage({ picture, seconds } satisfies LiveOrder, [picture]);
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
    worker?.terminate();
    [video, worker, busy, sentAt] = [null, null, false, 0];
    stream.value = null;
    advice.value = null;
    answered.length = 0;
    state.value = 'off';
    seen.value = null;
    rate.value = 0;
  }
  onUnmounted(stop);
  return { state, problem, rate, took, seen, advice, signs, stream, start, stop };
}
