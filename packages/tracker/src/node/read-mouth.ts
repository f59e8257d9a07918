import type { Observations } from '@merry-shadow/core/observe/observations';
import { unseenParts } from '@merry-shadow/core/observe/unseen';
import { jawFromSound } from '@merry-shadow/core/sound/mouth-from-sound';
import { readSamples, SOUND_RATE } from './read-sound';

/**
 * How far a performer's mouth is open as the clip's voice tells it, for each frame of what was seen.
 * @param path the clip. @param first its frame with which the observations begin.
 * @returns undefined where nothing is to be told: no face was captured, or it was seen all the time, or there is no sound.
 */
export async function readMouth(
  path: string,
  first: number,
  observations: Observations,
  signal?: AbortSignal,
): Promise<Float32Array | undefined> {
  const { frames, rate } = observations;
  if (!unseenParts(observations).face?.includes(1)) return undefined;
  const sound = await readSamples(path, first / rate, frames / rate, signal);
  return sound.length > 0 ? jawFromSound(sound, SOUND_RATE, frames, rate) : undefined;
}
