import { createReadStream } from 'node:fs';
import { z } from 'zod';
import { BridgeFrame, BridgeHello } from '@merry-shadow/contracts/depth-camera';
import { frameMessage, MessageReader } from '@merry-shadow/contracts/framed-message';

/**
 * What comes of a depth camera while it is recorded is put away as it comes: its hello, then its frames with the time at which each came. It is made
 * into one file when the recording is over.
 */
const SpooledFrame = BridgeFrame.extend({ arrived: z.number() });
/** A frame of a depth camera, and when it came by our clock, seconds. */
export type SpooledFrame = z.infer<typeof SpooledFrame> & { body: Uint8Array };

export const spooledHello = (hello: BridgeHello): Uint8Array => frameMessage(hello);
export const spooledFrame = ({ body, ...head }: SpooledFrame): Uint8Array => frameMessage(head, body);

/** Reads a spool, as far as it is whole. */
export async function* readSpool(path: string): AsyncGenerator<BridgeHello | SpooledFrame> {
  const reader = new MessageReader();
  let greeted = false;
  for await (const piece of createReadStream(path, { highWaterMark: 1 << 20 }) as AsyncIterable<Buffer>)
    for (const { head, body } of reader.add(piece)) {
      if (greeted) yield { ...SpooledFrame.parse(head), body };
      else yield BridgeHello.parse(head);
      greeted = true;
    }
}
