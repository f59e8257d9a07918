import { ref, shallowRef, watch } from 'vue';
import { isSeen } from '@merry-shadow/core/observe/body';
import type { CapturedParts, Observations } from '@merry-shadow/core/observe/observations';
import { liveAdvice, crossesArms, type LiveAdvice } from '@merry-shadow/core/judge/live-advice';
import { startLiveWorker } from './live-worker-address';
import type { LiveAnswer, LiveOrder } from './live-protocol';

export type LiveState = 'off' | 'asking' | 'loading' | 'on';
/** The long side of the pictures that are tracked, pixels: recording goes on in full size. */
export const TRACKED = 640;
/** Frames over which the shown rate is averaged. */
const RATE_FRAMES = 20;
/** An advice is given once it has held for so many milliseconds, and taken back as slowly; a sign counts after so many. */
const ADVICE_MS = 700;
const SIGN_MS = 900;

/**
 * Tracks the pictures of a camera as fast as this computer can; those that come meanwhile are left out.
 * @param wanted which parts are followed beside the body.
 */
export function useLiveTracking(wanted: () => CapturedParts) {
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
  let worker: Worker | null = null;
  let busy = false;
  let sentAt = 0;
  const answered: number[] = [];

  /** Loads the tracker. @param ready it takes pictures from now on. @param failed it was given up. */
  function open(ready: () => void, failed: (message: string) => void): void {
    state.value = 'loading';
    worker = startLiveWorker();
    worker.onmessage = ({ data }: MessageEvent<LiveAnswer>) => {
      if ('problem' in data) return failed(data.problem);
      if ('took' in data) return take(data);
      if (state.value === 'on') return;
      state.value = 'on';
      ready();
    };
    order({ parts: wanted() });
    worker.onerror = (event) => failed(event.message || 'The tracker could not be started.');
  }

  const order = (what: LiveOrder, transfer: Transferable[] = []): void => worker?.postMessage(what, { transfer });
  watch([() => wanted().hands, () => wanted().face], () => order({ parts: wanted() }));

  /** Offers a picture; it is asked for only if the tracker is free. @param now milliseconds. */
  async function offer(now: number, picture: () => Promise<ImageBitmap>): Promise<void> {
    if (busy || !worker || state.value !== 'on') return;
    busy = true;
    const own = worker;
    try {
      const bitmap = await picture();
      if (own !== worker) return bitmap.close();
      const seconds = sentAt ? Math.min(1, Math.max(0.005, (now - sentAt) / 1000)) : 1 / 30;
      sentAt = now;
      order({ picture: bitmap, seconds }, [bitmap]);
    } catch {
      // A picture that can't be shown is left out like one that came too early.
      busy = false;
    }
  }

  function take(data: Extract<LiveAnswer, { took: number }>): void {
    busy = false;
    took.value = data.took;
    const now = performance.now();
    answered.push(now);
    if (answered.length > RATE_FRAMES) answered.shift();
    rate.value = answered.length > 1 ? ((answered.length - 1) * 1000) / (now - answered[0]) : 0;
    advise(data, now);
    seen.value?.picture.close();
    seen.value = { picture: data.picture, observations: data.observations };
  }

  function advise({ observations, light, camera }: Extract<LiveAnswer, { took: number }>, now: number): void {
    const { width, height } = observations;
    const marks = isSeen(observations, 0) ? observations.marks : null;
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

  function close(): void {
    worker?.terminate();
    [worker, busy, sentAt] = [null, false, 0];
    advice.value = null;
    answered.length = 0;
    state.value = 'off';
    seen.value = null;
    rate.value = 0;
  }
  return { state, problem, rate, took, seen, advice, signs, open, offer, close };
}
