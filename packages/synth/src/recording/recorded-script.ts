import type { z } from 'zod';
import { Body, Script } from '../choreography/script';
import { performRecording, recordingSeconds } from './perform-recording';

const FIELD_OF_VIEW = 54;
/** What must fit in beside and above a body, metres. */
const ELBOW_ROOM = 0.95;
const TALL = 2.3;

export interface RecordedScriptOptions {
  name: string;
  height?: number;
  /** The longest that is taken of the recording, seconds. */
  seconds?: number;
  rate?: number;
}

/**
 * Makes a choreography from a recorded motion (BVH): a made-up performer who does it, and a camera that
 * stands still and sees all of it.
 * @throws Error when the recording can't be read or no person is found in it.
 */
export function recordedScript(bvh: string, options: RecordedScriptOptions): Script {
  const rate = options.rate ?? 30;
  const seconds = Math.max(1 / rate, Math.min(recordingSeconds(bvh), options.seconds ?? 60));
  const body: z.input<typeof Body> = { height: options.height ?? 1.75 };
  const { motion } = performRecording(bvh, Body.parse(body), Math.round(seconds * rate), rate);
  const spread = (k: number): [number, number] => {
    let [low, high] = [Infinity, -Infinity];
    for (let f = 0; f < motion.frames; f++) {
      low = Math.min(low, motion.root[f * 3 + k]);
      high = Math.max(high, motion.root[f * 3 + k]);
    }
    return [low, high];
  };
  const [[left, right], [back, front]] = [spread(0), spread(2)];
  const half = Math.tan((FIELD_OF_VIEW * Math.PI) / 360);
  const distance = Math.max(((right - left) / 2 + ELBOW_ROOM) / half, TALL / 2 / ((half * 9) / 16));
  const x = (left + right) / 2;
  return Script.parse({
    name:
      options.name
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, '-')
        .replace(/^-+|-+$/g, '') || 'recording',
    about: 'A recorded motion on a made-up performer.',
    seconds,
    rate,
    camera: {
      position: [x, 1.4, front + distance],
      target: [x, 0.95, (back + front) / 2],
      fieldOfView: FIELD_OF_VIEW,
    },
    performers: [{ body, recording: bvh }],
  });
}
