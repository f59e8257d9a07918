import { nextTick, ref, shallowRef, type Ref } from 'vue';
import { usePlayer, type PlayedPart } from '../src/play/player';

jest.mock('vue', () => ({ ...jest.requireActual<object>('vue'), onUnmounted: () => undefined }));

/** A video element that is played: seeks end when the test says so. */
class PlayedVideo {
  readyState = 2;
  playbackRate = 1;
  paused = true;
  private time = 0;
  readonly asked: number[] = [];
  private readonly listeners = new Map<string, () => void>();
  private frame: ((now: number, data: { mediaTime: number }) => void) | null = null;

  get currentTime(): number {
    return this.time;
  }
  set currentTime(value: number) {
    this.time = value;
    this.asked.push(value);
  }
  addEventListener(name: string, handler: () => void): void {
    this.listeners.set(name, handler);
  }
  removeEventListener(name: string): void {
    this.listeners.delete(name);
  }
  requestVideoFrameCallback(callback: (now: number, data: { mediaTime: number }) => void): number {
    this.frame = callback;
    return 1;
  }
  cancelVideoFrameCallback(): void {
    this.frame = null;
  }
  async play(): Promise<void> {
    this.paused = false;
  }
  pause(): void {
    this.paused = true;
  }
  /** The browser has put a picture on the screen. */
  shows(mediaTime: number): void {
    this.frame?.(0, { mediaTime });
  }
  /** A seek has ended. */
  arrives(): void {
    this.listeners.get('seeked')?.();
  }
}

async function open(part: PlayedPart = { rate: 25, frames: 100, from: 20, until: 60 }) {
  const element = new PlayedVideo();
  const video = shallowRef<HTMLVideoElement | undefined>() as Ref<HTMLVideoElement | undefined>;
  const player = usePlayer(video, ref(part));
  video.value = element as unknown as HTMLVideoElement;
  await nextTick();
  return { element, player };
}

describe('the player', () => {
  it('asks for the middle of a frame, and tells the one that is on the screen', async () => {
    const { element, player } = await open();
    player.seek(30);
    expect(element.asked).toEqual([30.5 / 25]);
    expect(player.shown.value).toBe(0);
    element.shows(30 / 25);
    expect(player.shown.value).toBe(30);
  });

  it('goes to the last wish only while a seek is under way', async () => {
    const { element, player } = await open();
    player.seek(10);
    player.seek(11);
    player.seek(12);
    expect(element.asked).toHaveLength(1);
    element.arrives();
    expect(element.asked.at(-1)).toBeCloseTo(12.5 / 25, 9);
    element.arrives();
    expect(element.asked).toHaveLength(2);
  });

  it('counts a burst of steps from the frame that was asked for', async () => {
    const { element, player } = await open();
    player.seek(40);
    for (let i = 0; i < 5; i++) player.step(-1);
    element.arrives();
    expect(element.asked.at(-1)).toBeCloseTo(35.5 / 25, 9);
  });

  it('stays within the clip', async () => {
    const { element, player } = await open();
    player.seek(-4);
    element.arrives();
    expect(element.asked.at(-1)).toBeCloseTo(0.5 / 25, 9);
    player.seek(4000);
    expect(element.asked.at(-1)).toBeCloseTo(99.5 / 25, 9);
  });

  it('plays the part between in and out point over and over, at the speed that is set', async () => {
    const { element, player } = await open();
    player.setSpeed(0.25);
    await nextTick();
    player.play();
    expect(element.asked.at(-1)).toBeCloseTo(20.5 / 25, 9);
    expect([element.playbackRate, element.paused]).toEqual([0.25, false]);
    element.arrives();
    element.shows(58 / 25);
    expect(element.asked).toHaveLength(1);
    element.shows(59 / 25);
    expect(element.asked.at(-1)).toBeCloseTo(20.5 / 25, 9);
    player.toggle();
    expect([element.paused, player.playing.value]).toEqual([true, false]);
  });

  it('says that it does not play when the browser refuses', async () => {
    const { element, player } = await open();
    element.play = () => Promise.reject(new Error('not now'));
    player.play();
    await nextTick();
    await nextTick();
    expect(player.playing.value).toBe(false);
  });
});

describe('winding', () => {
  let frame: ((at: number) => void) | null = null;
  beforeEach(() => {
    frame = null;
    Object.assign(globalThis, {
      requestAnimationFrame: (callback: (at: number) => void) => (frame = callback) && 1,
      cancelAnimationFrame: () => (frame = null),
    });
  });

  it('goes faster each time, slower against its way, and stops at the ends', async () => {
    const { element, player } = await open();
    player.seek(50);
    element.arrives();
    player.wind(-1);
    player.wind(-1);
    expect(player.pace.value).toBe(-2);
    frame?.(1000);
    frame?.(1400);
    // 0.4 s at 25 frames/s, twice as fast, backwards.
    expect(player.at()).toBe(30);
    player.wind(1);
    expect(player.pace.value).toBe(-1);
    frame?.(1400);
    frame?.(6000);
    expect([player.at(), player.pace.value]).toEqual([0, 0]);
  });

  it('leaves the first frame, whatever time its first picture is given', async () => {
    const { player } = await open();
    player.wind(1);
    frame?.(-8);
    expect(player.pace.value).toBe(1);
    frame?.(392);
    expect(player.at()).toBe(10);
  });

  it('ends with anything else', async () => {
    const { player } = await open();
    player.wind(1);
    player.step(1);
    expect([player.pace.value, frame]).toEqual([0, null]);
  });
});
