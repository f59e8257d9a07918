import { onUnmounted, ref, shallowRef } from 'vue';
import { MARK_COUNT } from '@merry-shadow/core/observe/body';
import { emptyObservations, type Observations } from '@merry-shadow/core/observe/observations';
import { startLiveWorker } from './live-worker-address';
import type { LiveAnswer, LiveOrder } from './live-protocol';

export type LiveState = 'off' | 'asking' | 'loading' | 'on';
/** Frames over which the shown rate is averaged. */
const RATE_FRAMES = 20;

const REFUSALS: Record<string, string> = {
  NotAllowedError: 'The browser was not allowed to use the camera. Allow it in the address bar and try again.',
  NotFoundError: 'No camera was found. Plug one in and try again.',
  NotReadableError: 'The camera is in use by another program. Close that and try again.',
};

/** A camera whose frames are tracked as fast as this computer can; frames that come meanwhile are left out. */
export function useLiveCamera() {
  const state = ref<LiveState>('off');
  const problem = ref('');
  const rate = ref(0);
  const took = ref(0);
  const seen = shallowRef<{ picture: ImageBitmap; observations: Observations } | null>(null);
  let worker: Worker | null = null;
  let stream: MediaStream | null = null;
  let video: HTMLVideoElement | null = null;
  let callback = 0;
  let busy = false;
  let sentAt = 0;
  /** Counts starts and stops: a camera that is allowed after one has left is let go at once. */
  let turn = 0;
  const answered: number[] = [];

  async function start(element: HTMLVideoElement): Promise<void> {
    stop();
    const own = turn;
    problem.value = '';
    state.value = 'asking';
    try {
      const allowed = await navigator.mediaDevices.getUserMedia({
        video: { width: { ideal: 640 }, height: { ideal: 480 } },
        audio: false,
      });
      if (own !== turn) return allowed.getTracks().forEach((track) => track.stop());
      stream = allowed;
    } catch (error) {
      if (own !== turn) return;
      state.value = 'off';
      problem.value = REFUSALS[(error as Error).name] ?? `The camera can't be used: ${(error as Error).message}`;
      return;
    }
    state.value = 'loading';
    video = element;
    element.srcObject = stream;
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
    seen.value?.picture.close();
    seen.value = { picture: data.picture, observations };
  }

  function wait(): void {
    if (!video) return;
    callback = video.requestVideoFrameCallback(async (now) => {
      wait();
      if (busy || !video || !worker || state.value !== 'on') return;
      busy = true;
      const picture = await createImageBitmap(video);
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
    for (const track of stream?.getTracks() ?? []) track.stop();
    worker?.terminate();
    [video, stream, worker, busy, sentAt] = [null, null, null, false, 0];
    answered.length = 0;
    state.value = 'off';
    seen.value = null;
    rate.value = 0;
  }
  onUnmounted(stop);
  return { state, problem, rate, took, seen, start, stop };
}
