import { computed, onUnmounted, ref, shallowRef } from 'vue';
import type { DepthCameraView, RecordingNews } from '@merry-shadow/contracts/depth-camera';
import { beginRecording, finishRecording, recordDepth, RefusedError, removeClip, sendPiece } from '../api/client';
import { PieceSender, untilDone } from './piece-sender';

/** A numbered try. */
export interface Try {
  number: number;
  name: string;
  state: 'recording' | 'arriving' | 'kept' | 'failed';
  seconds: number;
  /** Frames that the camera gave, and those that it should have given by its rate. */
  frames: number;
  expected: number;
  /** The clip that it became. */
  clipId: string | null;
  /** Address of what was recorded, for watching it at once. */
  film: string;
  problem: string;
}

/** A piece of a recording comes so often, milliseconds: no more than that is lost when the page crashes. */
const PIECE_MS = 1000;
/** What the browser may write, the first that it can. */
const KINDS = [
  'video/webm;codecs=h264,opus',
  'video/webm;codecs=vp8,opus',
  'video/webm;codecs=vp9,opus',
  'video/webm',
  'video/mp4',
];
/** Bits for each pixel. */
const BITS = 0.14;

/** The try that the server records. */
interface DepthTry {
  number: number;
  id: string;
  rate: number;
}

const wait = (milliseconds: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, milliseconds));
/** A server or a database that is away comes back. */
const isFinal = (error: Error): boolean => error instanceof RefusedError && error.status !== 503;

/** Records tries from a webcam, whose film goes to the server while it is recorded, or from a depth camera, which the server records itself. Neither waits for anything. */
export function useTryRecorder(production: () => string | null) {
  const tries = shallowRef<readonly Try[]>([]);
  const current = ref<number | null>(null);
  let recorder: MediaRecorder | null = null;
  let fromDepth: DepthTry | null = null;
  /** Whether a try is being begun: the server is asked for its recording. */
  let beginning = false;
  let clock = 0;
  const recording = computed(() => current.value !== null);
  const change = (number: number, next: Partial<Try>): void => {
    tries.value = tries.value.map((item) => (item.number === number ? { ...item, ...next } : item));
  };

  /** Begins the next try, one at a time. @param make makes its recording. @returns null while another one is recorded or begun. */
  async function begin(
    make: (where: string, name: string) => Promise<string>,
  ): Promise<(Pick<Try, 'number' | 'name'> & { id: string }) | null> {
    const where = production();
    if (recording.value || beginning || !where) return null;
    beginning = true;
    try {
      const next = nextTry();
      return { ...next, id: await make(where, next.name) };
    } finally {
      beginning = false;
    }
  }
  /** Number and name of the next try. */
  function nextTry(): Pick<Try, 'number' | 'name'> {
    const number = (tries.value.at(-1)?.number ?? 0) + 1;
    const moment = new Date().toLocaleString('en-GB', {
      day: 'numeric',
      month: 'short',
      hour: '2-digit',
      minute: '2-digit',
    });
    return { number, name: `Try ${number} · ${moment}` };
  }
  function show(next: Pick<Try, 'number' | 'name'>): void {
    tries.value = [
      ...tries.value,
      { ...next, state: 'recording', seconds: 0, frames: 0, expected: 0, clipId: null, film: '', problem: '' },
    ];
    current.value = next.number;
  }
  /** Makes a clip of what was recorded. */
  async function keep(number: number, id: string): Promise<void> {
    try {
      change(number, { clipId: await untilDone(() => finishRecording(id), wait, isFinal), state: 'kept' });
    } catch (error) {
      change(number, { state: 'failed', problem: (error as Error).message });
    }
  }

  /** @param video shows the stream: its frames are counted. @param seconds after which it ends by itself; 0 for never. */
  async function start(stream: MediaStream, video: HTMLVideoElement, seconds: number): Promise<void> {
    const next = await begin(beginRecording);
    if (!next) return;
    const { number, name, id } = next;
    const pieces: Blob[] = [];
    const sender = new PieceSender(
      {
        send: (at, piece) => sendPiece(id, at, piece),
        wait,
        refused: (error) => {
          change(number, { problem: `The recording was stopped: ${error.message}` });
          stop();
        },
      },
      isFinal,
    );
    const { width = 640, height = 480, frameRate = 30 } = stream.getVideoTracks()[0].getSettings();
    const own = new MediaRecorder(stream, {
      mimeType: KINDS.find((kind) => MediaRecorder.isTypeSupported(kind)),
      videoBitsPerSecond: Math.round(width * height * frameRate * BITS),
    });
    recorder = own;
    own.ondataavailable = ({ data }) => {
      pieces.push(data);
      sender.add(data);
    };
    const counted = countFrames(video);
    const began = performance.now();
    own.onstop = () => void end();
    show({ number, name });
    own.start(PIECE_MS);
    clock = window.setInterval(() => {
      const passed = (performance.now() - began) / 1000;
      change(number, { seconds: passed, frames: counted(), expected: Math.round(passed * frameRate) });
      if (seconds > 0 && passed >= seconds) stop();
    }, 100);

    async function end(): Promise<void> {
      const passed = (performance.now() - began) / 1000;
      clearInterval(clock);
      recorder = null;
      current.value = null;
      change(number, {
        state: 'arriving',
        seconds: passed,
        frames: counted(),
        expected: Math.round(passed * frameRate),
        film: URL.createObjectURL(new Blob(pieces, { type: own.mimeType })),
      });
      await sender.settled();
      await keep(number, id);
    }
  }

  /** Has the server record from a depth camera. @param seconds after which it ends by itself; 0 for never. */
  async function startDepth(camera: DepthCameraView, seconds: number): Promise<void> {
    const next = await begin((where, name) => recordDepth(camera.id, { production: where, name, seconds }));
    if (!next) return;
    const { number, name, id } = next;
    show({ number, name });
    fromDepth = { number, id, rate: camera.colourRate };
  }

  /** How far the recording from a depth camera is; null when the camera went away. */
  function depthNews(news: RecordingNews | null): void {
    // News of the one before may still come.
    if (!fromDepth || (news && news.id !== fromDepth.id)) return;
    const { number, rate } = fromDepth;
    if (news)
      change(number, {
        seconds: news.seconds,
        frames: news.colour,
        expected: Math.round(news.seconds * rate),
        problem: news.problem,
      });
    if (!news || news.over) endDepth();
  }

  function endDepth(): void {
    if (!fromDepth) return;
    const { number, id } = fromDepth;
    fromDepth = null;
    current.value = null;
    change(number, { state: 'arriving' });
    void keep(number, id);
  }

  function stop(): void {
    endDepth();
    if (recorder?.state === 'recording') recorder.stop();
  }

  /** Throws a try away, with the clip that it became. */
  async function throwAway(item: Try): Promise<void> {
    if (item.clipId) await removeClip(item.clipId);
    if (item.film) URL.revokeObjectURL(item.film);
    tries.value = tries.value.filter(({ number }) => number !== item.number);
  }

  onUnmounted(() => {
    stop();
    for (const { film } of tries.value) if (film) URL.revokeObjectURL(film);
  });
  return { tries, recording, current, start, startDepth, depthNews, stop, throwAway };
}

/** Counts the frames that come, shown or not. @returns how many so far. */
function countFrames(video: HTMLVideoElement): () => number {
  let [first, last] = [-1, -1];
  const next = (_now: number, { presentedFrames }: VideoFrameCallbackMetadata): void => {
    if (first < 0) first = presentedFrames - 1;
    last = presentedFrames;
    video.requestVideoFrameCallback(next);
  };
  video.requestVideoFrameCallback(next);
  return () => (first < 0 ? 0 : last - first);
}
