import type { DepthCameraView, RecordingNews } from '@merry-shadow/contracts/depth-camera';
import { RefusedError } from '../src/api/client';
import * as client from '../src/api/client';
import { useTryRecorder } from '../src/record/try-recorder';

jest.mock('vue', () => ({ ...jest.requireActual<object>('vue'), onUnmounted: () => undefined }));
jest.mock('../src/api/client', () => ({
  ...jest.requireActual<object>('../src/api/client'),
  beginRecording: jest.fn(),
  sendPiece: jest.fn(),
  finishRecording: jest.fn(),
  removeClip: jest.fn(),
  recordDepth: jest.fn(),
}));

/** A browser that records: pieces come when the test says so. */
class PlayedRecorder {
  static latest: PlayedRecorder;
  static isTypeSupported = (kind: string): boolean => kind.includes('vp8');
  state = 'inactive';
  ondataavailable?: (event: { data: Blob }) => void;
  onstop?: () => void;
  readonly mimeType: string;
  constructor(_stream: object, options: { mimeType: string }) {
    this.mimeType = options.mimeType;
    PlayedRecorder.latest = this;
  }
  start(): void {
    this.state = 'recording';
  }
  piece(text: string): void {
    this.ondataavailable?.({ data: new Blob([text]) });
  }
  stop(): void {
    this.state = 'inactive';
    this.onstop?.();
  }
}
let frames: ((now: number, data: { presentedFrames: number }) => void) | null = null;
const video = {
  requestVideoFrameCallback: (callback: NonNullable<typeof frames>) => (frames = callback),
} as unknown as HTMLVideoElement;
const stream = {
  getVideoTracks: () => [{ getSettings: () => ({ width: 640, height: 480, frameRate: 30 }) }],
} as unknown as MediaStream;
const turns = async (): Promise<void> => {
  for (let i = 0; i < 20; i++) await Promise.resolve();
};
const sent = (): unknown[] => jest.mocked(client.sendPiece).mock.calls.map(([, at]) => at);

beforeEach(() => {
  jest.useFakeTimers();
  Object.assign(globalThis, { MediaRecorder: PlayedRecorder, window: globalThis });
  Object.assign(URL, { createObjectURL: () => 'blob:film', revokeObjectURL: () => undefined });
  jest.mocked(client.beginRecording).mockReset().mockResolvedValue('recording');
  jest.mocked(client.sendPiece).mockReset().mockResolvedValue(new Response());
  jest.mocked(client.finishRecording).mockReset().mockResolvedValue('clip');
});
afterEach(() => jest.useRealTimers());

it('sends what it records while it records, and keeps the try as a clip', async () => {
  const { tries, start, stop, recording } = useTryRecorder(() => 'harbour');
  await start(stream, video, 0);
  expect(recording.value).toBe(true);
  frames?.(0, { presentedFrames: 100 });
  PlayedRecorder.latest.piece('abc');
  await turns();
  PlayedRecorder.latest.piece('de');
  frames?.(0, { presentedFrames: 129 });
  await jest.advanceTimersByTimeAsync(1000);
  expect(sent()).toEqual([0, 3]);
  expect(tries.value).toMatchObject([{ number: 1, state: 'recording', frames: 30, expected: 30 }]);
  stop();
  await turns();
  expect(tries.value).toMatchObject([{ state: 'kept', clipId: 'clip', film: 'blob:film' }]);
  expect(recording.value).toBe(false);
});

it('begins one try at a time, however often it is asked for, and can be asked again where the server refused', async () => {
  const { tries, start, stop } = useTryRecorder(() => 'harbour');
  await Promise.all([start(stream, video, 0), start(stream, video, 0), start(stream, video, 0)]);
  expect(jest.mocked(client.beginRecording)).toHaveBeenCalledTimes(1);
  expect(tries.value).toHaveLength(1);
  stop();
  await turns();
  jest.mocked(client.beginRecording).mockRejectedValueOnce(new RefusedError('The disk is full.', null, 507));
  await expect(start(stream, video, 0)).rejects.toThrow('The disk is full.');
  await start(stream, video, 0);
  expect(tries.value.map(({ number }) => number)).toEqual([1, 2]);
  stop();
  await turns();
});

it('ends by itself after its length, and another one has the next number', async () => {
  const { tries, start, throwAway } = useTryRecorder(() => 'harbour');
  await start(stream, video, 5);
  await jest.advanceTimersByTimeAsync(5200);
  expect(tries.value[0]).toMatchObject({ state: 'kept' });
  expect(tries.value[0].seconds).toBeCloseTo(5, 0);
  await start(stream, video, 0);
  expect(tries.value.map(({ number }) => number)).toEqual([1, 2]);
  PlayedRecorder.latest.stop();
  await turns();
  await throwAway(tries.value[0]);
  expect(jest.mocked(client.removeClip)).toHaveBeenCalledWith('clip');
  expect(tries.value.map(({ number }) => number)).toEqual([2]);
});

it('goes on while the server and its database are away', async () => {
  const { tries, start, stop } = useTryRecorder(() => 'harbour');
  jest
    .mocked(client.sendPiece)
    .mockRejectedValueOnce(new TypeError('Failed to fetch'))
    .mockRejectedValueOnce(new TypeError('Failed to fetch'));
  jest
    .mocked(client.finishRecording)
    .mockRejectedValueOnce(new RefusedError('The database does not answer.', 'X', 503));
  await start(stream, video, 0);
  PlayedRecorder.latest.piece('abc');
  await jest.advanceTimersByTimeAsync(2000);
  stop();
  await jest.advanceTimersByTimeAsync(2000);
  expect(sent()).toEqual([0, 0, 0]);
  expect(tries.value).toMatchObject([{ state: 'kept', problem: '' }]);
});

it('stops when the disk is full, says so, and keeps what came before', async () => {
  const { tries, start, recording } = useTryRecorder(() => 'harbour');
  await start(stream, video, 0);
  PlayedRecorder.latest.piece('abc');
  await turns();
  jest.mocked(client.sendPiece).mockRejectedValue(new RefusedError('The disk is full.', 'NO_ROOM', 507));
  PlayedRecorder.latest.piece('de');
  await turns();
  expect(recording.value).toBe(false);
  expect(tries.value).toMatchObject([
    { state: 'kept', clipId: 'clip', problem: 'The recording was stopped: The disk is full.' },
  ]);
});

it('does nothing while no production is open, or while it records', async () => {
  let production: string | null = null;
  const { tries, start } = useTryRecorder(() => production);
  await start(stream, video, 0);
  expect(tries.value).toEqual([]);
  production = 'harbour';
  await start(stream, video, 0);
  await start(stream, video, 0);
  expect(tries.value).toHaveLength(1);
});

describe('a try from a depth camera', () => {
  const lamp = { id: 'depth-1', colourRate: 30 } as DepthCameraView;
  const news = (fields: Partial<RecordingNews>): RecordingNews => ({
    type: 'recording',
    id: 'recording',
    seconds: 1,
    colour: 30,
    depth: 15,
    over: false,
    problem: '',
    ...fields,
  });
  beforeEach(() => void jest.mocked(client.recordDepth).mockReset().mockResolvedValue('recording'));

  it('is recorded by the server, told while it goes on, and kept when it is over', async () => {
    const { tries, startDepth, depthNews, recording } = useTryRecorder(() => 'harbour');
    await startDepth(lamp, 2);
    expect(jest.mocked(client.recordDepth).mock.calls[0]).toMatchObject([
      'depth-1',
      { production: 'harbour', seconds: 2 },
    ]);
    depthNews(news({ seconds: 1.5, colour: 41 }));
    expect(tries.value).toMatchObject([{ state: 'recording', seconds: 1.5, frames: 41, expected: 45 }]);
    depthNews(news({ seconds: 2, over: true }));
    expect(recording.value).toBe(false);
    await turns();
    expect(tries.value).toMatchObject([{ state: 'kept', clipId: 'clip', film: '' }]);
    // What is told of it afterwards changes nothing.
    depthNews(news({ seconds: 9 }));
    expect(tries.value[0].seconds).toBe(2);
  });

  it('is stopped by hand, and ends where the camera goes away', async () => {
    const { tries, startDepth, depthNews, stop } = useTryRecorder(() => 'harbour');
    await startDepth(lamp, 0);
    await startDepth(lamp, 0);
    stop();
    await turns();
    await startDepth(lamp, 0);
    // The end of the one before is told late.
    depthNews(news({ id: 'another', over: true }));
    expect(tries.value.at(-1)?.state).toBe('recording');
    depthNews(news({ over: true, problem: 'The disk is full.' }));
    await turns();
    await startDepth(lamp, 0);
    depthNews(null);
    await turns();
    expect(tries.value.map(({ state, problem }) => [state, problem])).toEqual([
      ['kept', ''],
      ['kept', 'The disk is full.'],
      ['kept', ''],
    ]);
    expect(client.finishRecording).toHaveBeenCalledTimes(3);
  });
});
