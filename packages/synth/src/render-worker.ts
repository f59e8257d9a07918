import { parentPort, workerData } from 'node:worker_threads';
import { FrameRenderer } from './render/frame';
import { readScript } from './choreography/script';
import { setStage } from './stage';

/** Draws every n-th frame of a clip, each when the main thread asks for it. */
const { text } = workerData as { text: string };
const stage = setStage(readScript(text));
const renderer = new FrameRenderer(stage.script, stage.cameras, stage.performances);
parentPort?.on('message', (frame: number) => {
  const pixels = renderer.draw(frame);
  parentPort?.postMessage({ frame, pixels }, [pixels.buffer as ArrayBuffer]);
});
