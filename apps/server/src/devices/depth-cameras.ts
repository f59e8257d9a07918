import { createServer, type Server, type Socket } from 'node:net';
import { z } from 'zod';
import {
  BridgeFrame,
  BridgeHello,
  type BridgeOrder,
  type DepthCameraView,
  type RecordingNews,
} from '@merry-shadow/contracts/depth-camera';
import { frameMessage, MessageReader, type FramedMessage } from '@merry-shadow/contracts/framed-message';
import type { SpooledFrame } from '../media/depth-spool';

/** Whoever wants a camera's frames. */
export interface CameraWatcher {
  frame: (frame: SpooledFrame) => void;
  /** The camera went away. */
  gone: () => void;
  /** How far a recording from it is. */
  news: (news: RecordingNews) => void;
  /** It records: it is nobody who looks. */
  records?: boolean;
}

/** A bridge that does not say hello within this time is sent away, milliseconds. */
const HELLO_MS = 5000;

/** A camera that is there, as its bridge says. */
export class DepthCamera {
  private readonly watchers = new Set<CameraWatcher>();

  constructor(
    readonly id: string,
    readonly hello: BridgeHello,
    private readonly order: (order: BridgeOrder) => void,
  ) {}

  /** Gives a watcher the frames from now on; frames come while there is one. @returns how to leave. */
  watch(watcher: CameraWatcher): () => void {
    this.watchers.add(watcher);
    if (this.watchers.size === 1) this.order({ type: 'stream', on: true });
    return () => {
      if (this.watchers.delete(watcher) && this.watchers.size === 0) this.order({ type: 'stream', on: false });
    };
  }

  /** Whether it is recorded. */
  get isRecorded(): boolean {
    return [...this.watchers].some(({ records }) => records);
  }

  /** Whether somebody looks at it. */
  get isWatched(): boolean {
    return [...this.watchers].some(({ records }) => !records);
  }

  tell(news: RecordingNews): void {
    for (const watcher of this.watchers) watcher.news(news);
  }

  take(frame: SpooledFrame): void {
    for (const watcher of this.watchers) watcher.frame(frame);
  }

  leave(): void {
    for (const watcher of [...this.watchers]) watcher.gone();
    this.watchers.clear();
  }

  view(): DepthCameraView {
    const { name, rig, colourRate, depthRate, colourFormat } = this.hello;
    return { id: this.id, name, rig, colourRate, depthRate, colourFormat, recording: this.isRecorded };
  }
}

/** The local socket to which bridges bring what depth cameras see (docs/depth-cameras.md). */
export class DepthCameras {
  private readonly there = new Map<string, DepthCamera>();
  private readonly sockets = new Set<Socket>();
  private server: Server | null = null;
  private count = 0;
  /** Where bridges connect on 127.0.0.1; null where it is not open. */
  port: number | null = null;

  constructor(
    private readonly complain: (error: Error) => void,
    /** Our clock, seconds. */
    private readonly now: () => number = () => performance.now() / 1000,
  ) {}

  list(): DepthCameraView[] {
    return [...this.there.values()].map((camera) => camera.view());
  }

  find(id: string): DepthCamera | undefined {
    return this.there.get(id);
  }

  /** Opens the socket. A port that another program has is told and left to it: cameras are not needed for all else. */
  async listen(port: number): Promise<void> {
    const server = createServer((socket) => this.greet(socket));
    this.server = server;
    await new Promise<void>((resolve) => {
      server.once('error', (error) => {
        this.complain(new Error(`Depth cameras can't connect: ${error.message}`));
        resolve();
      });
      server.listen(port, '127.0.0.1', () => {
        const address = server.address();
        this.port = typeof address === 'object' && address ? address.port : null;
        resolve();
      });
    });
  }

  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy();
    const { server } = this;
    if (server?.listening) await new Promise<void>((resolve) => server.close(() => resolve()));
    this.port = null;
  }

  private greet(socket: Socket): void {
    this.sockets.add(socket);
    const reader = new MessageReader();
    let camera: DepthCamera | null = null;
    const tell = (order: BridgeOrder): void => void (socket.writable && socket.write(frameMessage(order)));
    const refuse = (reason: string): void => {
      tell({ type: 'refused', reason });
      socket.end();
      socket.removeAllListeners('data');
      this.complain(new Error(`A bridge of a depth camera was refused: ${reason}`));
    };
    const patience = setTimeout(() => camera ?? refuse('It did not say hello.'), HELLO_MS);
    const take = (message: FramedMessage): void => {
      if (camera === null) {
        const hello = readHello(message);
        clearTimeout(patience);
        camera = new DepthCamera(`depth-${++this.count}`, hello, tell);
        this.there.set(camera.id, camera);
      } else camera.take(readFrame(message, camera.hello, this.now()));
    };
    socket.on('data', (piece) => {
      try {
        for (const message of reader.add(piece)) take(message);
      } catch (error) {
        refuse(error instanceof z.ZodError ? z.prettifyError(error) : (error as Error).message);
      }
    });
    socket.on('error', () => undefined); // 'close' follows
    socket.on('close', () => {
      clearTimeout(patience);
      this.sockets.delete(socket);
      if (!camera) return;
      this.there.delete(camera.id);
      camera.leave();
    });
  }
}

function readHello({ head }: FramedMessage): BridgeHello {
  const hello = BridgeHello.parse(head);
  const { width, height } = hello.rig.colour;
  if (width % 2 !== 0 || height % 2 !== 0)
    throw new Error(`The colour picture is ${width} × ${height} pixels; both must be even.`);
  return hello;
}

function readFrame({ head, body }: FramedMessage, { rig, colourFormat }: BridgeHello, arrived: number): SpooledFrame {
  const { type, time } = BridgeFrame.parse(head);
  const wanted =
    type === 'depth'
      ? rig.depth.width * rig.depth.height * 2
      : colourFormat === 'rgb24'
        ? rig.colour.width * rig.colour.height * 3
        : null;
  if (wanted !== null && body.length !== wanted)
    throw new Error(`A ${type} frame has ${body.length} bytes; ${wanted} were expected.`);
  return { type, time, arrived, body };
}
