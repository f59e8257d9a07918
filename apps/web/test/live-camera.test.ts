import { nextTick, ref } from 'vue';
import type { CapturedParts } from '@merry-shadow/core/observe/observations';
import type { LiveAnswer, LiveOrder } from '../src/record/live-protocol';

/** A camera that is asked for, and allowed when the test says so. */
class PlayedTrack {
  stopped = false;
  stop(): void {
    this.stopped = true;
  }
}
let allow: (stream: object) => void = () => undefined;
let refuse: (error: Error) => void = () => undefined;
const workers: { terminated: boolean; orders: LiveOrder[]; onmessage?: (event: { data: LiveAnswer }) => void }[] = [];
let leave: () => void = () => undefined;
jest.mock('vue', () => ({
  ...jest.requireActual<object>('vue'),
  onUnmounted: (hook: () => void) => (leave = hook),
}));
jest.mock('../src/record/live-worker-address', () => ({
  startLiveWorker: () => {
    const worker = {
      terminated: false,
      orders: [] as LiveOrder[],
      terminate: () => (worker.terminated = true),
      postMessage: (order: LiveOrder) => void worker.orders.push(order),
    };
    workers.push(worker);
    return worker;
  },
}));
const element = {
  srcObject: null as object | null,
  play: async () => undefined,
  requestVideoFrameCallback: () => 1,
  cancelVideoFrameCallback: () => undefined,
};

beforeAll(() => {
  Object.defineProperty(globalThis, 'navigator', {
    configurable: true,
    value: {
      mediaDevices: {
        getUserMedia: () =>
          new Promise((resolve, reject) => {
            allow = resolve;
            refuse = reject;
          }),
      },
    },
  });
});
beforeEach(() => void (workers.length = 0));
const parts = ref<CapturedParts>({ hands: false, face: false });
const WISH = { camera: '', microphone: '', width: 640, height: 480, rate: 30 };

async function open() {
  const { useLiveCamera } = await import('../src/record/live-camera');
  const camera = useLiveCamera(() => parts.value);
  const track = new PlayedTrack();
  const started = camera.start(element as unknown as HTMLVideoElement, WISH);
  return { camera, track, started, stream: { getTracks: () => [track] } };
}

describe('the live camera', () => {
  it('is on until it is stopped, and then camera and worker are let go', async () => {
    const { camera, track, started, stream } = await open();
    expect(camera.state.value).toBe('asking');
    allow(stream);
    await started;
    expect([camera.state.value, workers.length]).toEqual(['loading', 1]);
    workers[0].onmessage?.({ data: { state: 'ready' } as unknown as LiveAnswer });
    expect(camera.state.value).toBe('on');
    camera.stop();
    expect([camera.state.value, track.stopped, workers[0].terminated, element.srcObject]).toEqual([
      'off',
      true,
      true,
      null,
    ]);
  });

  it('tells its worker which parts are followed, at first and when that changes', async () => {
    const { camera, started, stream } = await open();
    allow(stream);
    await started;
    parts.value = { hands: true, face: false };
    await nextTick();
    expect(workers[0].orders).toEqual([
      { parts: { hands: false, face: false } },
      { parts: { hands: true, face: false } },
    ]);
    camera.stop();
    parts.value = { hands: false, face: false };
  });

  it('is let go when the room is left while it is on', async () => {
    const { track, started, stream } = await open();
    allow(stream);
    await started;
    leave();
    expect([track.stopped, workers[0].terminated]).toEqual([true, true]);
  });

  it('is let go at once when it is allowed after the room was left', async () => {
    const { camera, track, started, stream } = await open();
    leave();
    allow(stream);
    await started;
    expect([camera.state.value, track.stopped, workers.length]).toEqual(['off', true, 0]);
  });

  it('without a microphone gives its picture alone', async () => {
    const { camera, started, stream } = await open();
    refuse(Object.assign(new Error('no microphone'), { name: 'NotFoundError' }));
    await Promise.resolve();
    await Promise.resolve();
    allow(stream);
    await started;
    expect([camera.state.value, camera.problem.value]).toEqual(['loading', '']);
    camera.stop();
  });

  it('that is refused is told, unless nobody waits any more', async () => {
    const first = await open();
    refuse(Object.assign(new Error('no'), { name: 'NotAllowedError' }));
    await first.started;
    expect(first.camera.state.value).toBe('off');
    expect(first.camera.problem.value).not.toBe('');
    const second = await open();
    leave();
    refuse(new Error('late'));
    await second.started;
    expect(second.camera.problem.value).toBe('');
  });
});
