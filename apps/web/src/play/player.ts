import { computed, onUnmounted, ref, watch, type Ref } from 'vue';

/** What is played: the prepared clip's rate and length, and the part that is looped. */
export interface PlayedPart {
  rate: number;
  frames: number;
  from: number;
  until: number;
}

export const SPEEDS = [0.1, 0.25, 0.5, 1] as const;
/** How fast winding gets, times true speed. */
const PACES = [1, 2, 4, 8];

/**
 * Plays a clip frame by frame. `shown` is the frame whose picture the browser has really put on the
 * screen, as told by its frame callback; everything else that is drawn follows it, so picture, marks
 * and figure are always of the same frame.
 */
export function usePlayer(video: Ref<HTMLVideoElement | undefined>, part: Ref<PlayedPart | undefined>) {
  const shown = ref(0);
  const playing = ref(false);
  const speed = ref<number>(1);
  /** The frame a seek is on its way to. */
  let wanted: number | null = null;
  /** The frame that was asked for last, or that plays: steps count from here. */
  let current = 0;
  let callback = 0;
  const rate = computed(() => part.value?.rate ?? 30);

  function watchFrames(element: HTMLVideoElement): void {
    callback = element.requestVideoFrameCallback((_now, { mediaTime }) => {
      shown.value = Math.round(mediaTime * rate.value);
      if (playing.value && wanted === null) current = shown.value;
      if (playing.value && part.value && shown.value >= part.value.until - 1) seek(part.value.from);
      watchFrames(element);
    });
  }

  function clamp(frame: number): number {
    const frames = part.value?.frames ?? 1;
    return Math.min(frames - 1, Math.max(0, Math.round(frame)));
  }

  /** Goes to a frame; while a seek is under way only the last wish counts. */
  function seek(frame: number): void {
    const element = video.value;
    const busy = wanted !== null;
    wanted = clamp(frame);
    current = wanted;
    if (element && !busy && element.readyState >= 1) element.currentTime = (wanted + 0.5) / rate.value;
  }

  function seeked(): void {
    const element = video.value;
    if (!element || wanted === null) return;
    const at = Math.floor(element.currentTime * rate.value + 1e-6);
    if (at === wanted) wanted = null;
    else element.currentTime = (wanted + 0.5) / rate.value;
  }

  /** How fast it is wound: times true speed, below 0 backwards; 0 when it is not. */
  const pace = ref(0);
  let winding = 0;

  /** Winds on (1) or back (−1), faster each time; against the way it winds: slower. Browsers play on only, so it is sought frame by frame. */
  function wind(way: 1 | -1): void {
    const at = Math.sign(pace.value) * (PACES.indexOf(Math.abs(pace.value)) + 1) + way;
    const next = Math.sign(at) * (PACES[Math.min(PACES.length, Math.abs(at)) - 1] ?? 0);
    pause();
    pace.value = next;
    if (next === 0) return;
    const from = current;
    // Time counts from the first picture: the time that a picture is given may lie before the key was pressed.
    let began: number | undefined;
    const go = (now: number): void => {
      began ??= now;
      const frame = from + ((now - began) / 1000) * rate.value * next;
      seek(frame);
      const isAtEnd = next < 0 ? frame <= 0 : frame >= (part.value?.frames ?? 1) - 1;
      if (isAtEnd) return void (pace.value = 0);
      winding = requestAnimationFrame(go);
    };
    winding = requestAnimationFrame(go);
  }

  function unwind(): void {
    if (pace.value !== 0) cancelAnimationFrame(winding);
    pace.value = 0;
  }

  function step(by: number): void {
    pause();
    seek(current + by);
  }

  function play(): void {
    const element = video.value;
    if (!element || !part.value) return;
    unwind();
    if (shown.value < part.value.from || shown.value >= part.value.until - 1) seek(part.value.from);
    element.playbackRate = speed.value;
    playing.value = true;
    element.play().catch(() => (playing.value = false));
  }

  function pause(): void {
    playing.value = false;
    unwind();
    video.value?.pause();
  }

  function loaded(): void {
    if (wanted !== null && video.value) video.value.currentTime = (wanted + 0.5) / rate.value;
  }

  const events: [string, () => void][] = [
    ['seeked', seeked],
    ['loadedmetadata', loaded],
    ['ended', () => playing.value && part.value && (seek(part.value.from), void video.value?.play())],
  ];
  watch(video, (element, before) => {
    if (before) {
      before.cancelVideoFrameCallback(callback);
      for (const [name, handler] of events) before.removeEventListener(name, handler);
    }
    if (!element) return;
    for (const [name, handler] of events) element.addEventListener(name, handler);
    watchFrames(element);
  });
  watch(speed, (value) => video.value && (video.value.playbackRate = value));
  onUnmounted(() => {
    unwind();
    video.value?.cancelVideoFrameCallback(callback);
  });
  function setSpeed(value: number): void {
    speed.value = value;
  }
  /** The frame that was asked for last: the shown one, or one on its way. */
  const at = (): number => current;
  return {
    shown,
    at,
    playing,
    speed,
    setSpeed,
    seek,
    step,
    play,
    pause,
    toggle: () => (playing.value || pace.value !== 0 ? pause() : play()),
    wind,
    pace,
  };
}
export type Player = ReturnType<typeof usePlayer>;
