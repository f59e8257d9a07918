import { parentPort, workerData } from 'node:worker_threads';
import { FrameRenderer } from './render/frame';
import { readScript } from './choreography/script';
import { setStage } from './stage';

export interface DrawingJob {
  /** The script's text. */
  text: string;
  /** With what a depth camera sees. */
  depth: boolean;
}

export interface DrawnFrame {
  frame: number;
  pixels: Uint8Array;
  depth: Uint16Array | null;
}

/** Draws every n-th frame of a clip, each when the main thread asks for it. */
const { text, depth: senses } = workerData as DrawingJob;
const stage = setStage(readScript(text));
const renderer = new FrameRenderer(stage.script, stage.cameras, stage.performances);
parentPort?.on('message', (frame: number) => {
  const pixels = renderer.draw(frame);
  const depth = senses ? renderer.senseDepth(frame) : null;
  const drawn: DrawnFrame = { frame, pixels, depth };
  parentPort?.postMessage(drawn, [pixels.buffer as ArrayBuffer, ...(depth ? [depth.buffer as ArrayBuffer] : [])]);
});
