import { parentPort, workerData } from 'node:worker_threads';
import { depthDevice } from './render/depth-device';
import { senseDepth, sensorSize } from './render/depth-sensor';
import { FrameRenderer } from './render/frame';
import { readScript } from './choreography/script';
import { setStage } from './stage';

/** What is drawn of a depth camera's millimetres: as it senses them, or without its faults. */
export type DepthKind = 'sensed' | 'clean';

export interface DrawingJob {
  /** The script's text. */
  text: string;
  /** With what a depth camera sees, or would see if it had no faults. */
  depth: DepthKind | null;
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
  if (!senses || (device && frame % device.every !== 0)) return null;
  sensor?.place(frame);
  const clean = (sensor ?? renderer).depth();
  const [columns, rows] = sensorSize(...(device?.script ?? stage.script).size);
  return senses === 'clean' ? clean : senseDepth(clean, columns, rows, stage.script.seed * 6007 + frame);
}

parentPort?.on('message', (frame: number) => {
  const pixels = renderer.draw(frame);
  const depth = depthOf(frame);
  const drawn: DrawnFrame = { frame, pixels, depth };
  parentPort?.postMessage(drawn, [pixels.buffer as ArrayBuffer, ...(depth ? [depth.buffer as ArrayBuffer] : [])]);
});
