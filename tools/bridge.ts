import { connect } from 'node:net';
import { join } from 'node:path';
import { BridgeOrder, type BridgeHello } from '@merry-shadow/contracts/depth-camera';
import { frameMessage, MessageReader } from '@merry-shadow/contracts/framed-message';
import { SimulatedDevice } from '@merry-shadow/synth/device/simulated-device';

export const DEVICE_FILM = 'demo/device/haul-toward-the-lamp.recording.mkv';
/** A bridge that lost Merry Shadow looks for it so often, milliseconds. */
const AGAIN_MS = 1000;

let opened: Promise<SimulatedDevice> | null = null;
/** The simulated camera; its film is read once. */
export const openDevice = (root: string): Promise<SimulatedDevice> =>
  (opened ??= SimulatedDevice.open(join(root, DEVICE_FILM)));

/** What the simulated camera's bridge says of it. */
export const helloOf = ({ rig, colourRate, depthRate }: SimulatedDevice): BridgeHello => ({
  type: 'hello',
  version: 1,
  name: 'Pier lamp (simulated)',
  rig,
  colourRate,
  depthRate,
  colourFormat: 'jpeg',
  oneClock: false,
});

/**
 * A bridge (docs/depth-cameras.md) for the simulated camera. It connects to a port of this computer, and again whenever the connection is lost.
 * @param tell called with a sentence when it is connected or refused. @returns what ends it.
 */
export function bridge(device: SimulatedDevice, port: number, tell: (sentence: string) => void): () => void {
  let over = false;
  let timer: NodeJS.Timeout | undefined;
  let stop = (): void => undefined;
  const open = (): void => {
    const socket = connect(port, '127.0.0.1');
    const reader = new MessageReader();
    let frames: NodeJS.Timeout | undefined;
    stop = () => socket.destroy();
    socket.on('connect', () => {
      tell(`The simulated depth camera is connected to port ${port}.`);
      socket.write(frameMessage(helloOf(device)));
    });
    socket.on('data', (piece) => {
      for (const { head } of reader.add(piece)) {
        const order = BridgeOrder.parse(head);
        if (order.type === 'refused') tell(`It was refused: ${order.reason}`);
        else {
          clearTimeout(frames);
          if (order.on) send();
        }
      }
    });
    const send = (): void => {
      const course = device.frames();
      const began = performance.now();
      const next = (): void => {
        const { value } = course.next();
        if (!value) return;
        const wait = began + value.seconds * 1000 - performance.now();
        frames = setTimeout(() => {
          socket.write(frameMessage({ type: value.kind, time: value.time }, value.body));
          next();
        }, wait);
      };
      next();
    };
    socket.on('error', () => undefined); // 'close' follows
    socket.on('close', () => {
      clearTimeout(frames);
      if (!over) timer = setTimeout(open, AGAIN_MS);
    });
  };
  open();
  return () => {
    over = true;
    clearTimeout(timer);
    stop();
  };
}
