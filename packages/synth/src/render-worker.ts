import { parentPort, workerData } from 'node:worker_threads';
import { depthDevice } from './render/depth-device';
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
  /** null where the depth camera has no frame at this moment. */
  depth: Uint16Array | null;
}

/** Draws every n-th frame of a clip, each when the main thread asks for it. */
const { text, depth: senses } = workerData as DrawingJob;
const stage = setStage(readScript(text));
const renderer = new FrameRenderer(stage.script, stage.cameras, stage.performances);
const device = senses ? depthDevice(stage.script, stage.cameras) : null;
const sensor = device && new FrameRenderer(device.script, device.cameras, stage.performances);

function depthOf(frame: number): Uint16Array | null {
  if (!sensor || !device) return renderer.senseDepth(frame);
  if (frame % device.every !== 0) return null;
  sensor.place(frame);
  return sensor.senseDepth(frame);
}

parentPort?.on('message', (frame: number) => {
  const pixels = renderer.draw(frame);
  const depth = senses ? depthOf(frame) : null;
  const drawn: DrawnFrame = { frame, pixels, depth };
  parentPort?.postMessage(drawn, [pixels.buffer as ArrayBuffer, ...(depth ? [depth.buffer as ArrayBuffer] : [])]);
});
