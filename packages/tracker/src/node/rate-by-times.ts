import { median } from '@merry-shadow/core/signal/joint-columns';
import { safeInput } from './media-safety';
import { runMediaTool } from './run-media-tool';

/** Rates that cameras are set to, frames a second. */
const USUAL = [10, 12, 12.5, 15, 20, 24, 25, 30, 48, 50, 60, 90, 100, 120, 240];
/** How far from one of them, as a part of it, the middle time between two frames still tells that one. */
const NEAR = 0.06;
/** Frames that are read. */
const ENOUGH = 3000;

/**
 * The rate of a video by the times of its frames: where a browser recorded a camera on a busy machine, they lie unevenly, and nothing in the file says what was meant.
 * @returns frames a second; 0 where the file has too few frames to tell.
 */
export async function rateByTimes(path: string, stream: number): Promise<number> {
  const times: number[] = [];
  await runMediaTool(
    'ffprobe',
    [
      ...['-v', 'error', '-select_streams', String(stream), '-read_intervals', `%+#${ENOUGH}`],
      ...['-show_entries', 'packet=pts_time', '-of', 'csv=p=0', ...safeInput(path)],
    ],
    {
      seconds: 60,
      onLine: (line) => {
        const time = Number.parseFloat(line);
        if (Number.isFinite(time)) times.push(time);
      },
    },
  );
  times.sort((a, b) => a - b);
  const steps = times.slice(1).flatMap((time, i) => (time > times[i] ? [time - times[i]] : []));
  if (steps.length < 2) return 0;
  const told = 1 / median(steps);
  const off = (rate: number): number => Math.abs(told / rate - 1);
  const [nearest] = [...USUAL].sort((a, b) => off(a) - off(b));
  return off(nearest) < NEAR ? nearest : told;
}
