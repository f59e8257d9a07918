/** When each sole point rests: a weight for each frame, 0 … 1, ramped at the ends. */
export type Contacts = Float64Array[];

const HEIGHT: readonly [enter: number, leave: number] = [0.05, 0.08];
const SPEED: readonly [enter: number, leave: number] = [0.25, 0.5];
const LEAST_FRAMES = 4;
const RAMP = 3;
/** Speed along the view is uncertain: it counts for less. */
const ALONG = 0.3;

/**
 * Finds when heels and toes rest, with hysteresis on height and speed.
 * @param soles count of sole points.
 * @param track frames × soles × 3, metres, floor at y = 0.
 * @param view direction from the camera, unit vector.
 */
export function findContacts(
  track: Float64Array,
  soles: number,
  frames: number,
  rate: number,
  view: readonly number[],
): Contacts {
  const stride = soles * 3;
  const reach = Math.max(1, Math.round(rate / 30));
  return Array.from({ length: soles }, (_, s) => {
    const at = (frame: number, k: number): number =>
      track[Math.min(frames - 1, Math.max(0, frame)) * stride + s * 3 + k];
    const resting = new Uint8Array(frames);
    let on: boolean = false;
    for (let frame = 0; frame < frames; frame++) {
      const span = (Math.min(frames - 1, frame + reach) - Math.max(0, frame - reach)) / rate || 1;
      const d = [0, 1, 2].map((k) => (at(frame + reach, k) - at(frame - reach, k)) / span);
      const along = d[0] * view[0] + d[1] * view[1] + d[2] * view[2];
      const across = Math.sqrt(Math.max(0, d[0] ** 2 + d[1] ** 2 + d[2] ** 2 - along ** 2));
      const speed = Math.hypot(across, ALONG * along);
      const i: 0 | 1 = on ? 1 : 0;
      on = at(frame, 1) < HEIGHT[i] && speed < SPEED[i];
      resting[frame] = on ? 1 : 0;
    }
    dropShort(resting);
    return ramped(resting);
  });
}

function dropShort(resting: Uint8Array): void {
  for (let start = 0; start < resting.length;) {
    let end = start;
    while (end < resting.length && resting[end] === resting[start]) end++;
    if (resting[start] && end - start < LEAST_FRAMES) resting.fill(0, start, end);
    start = end;
  }
}

function ramped(resting: Uint8Array): Float64Array {
  const out = new Float64Array(resting.length);
  for (let frame = 0; frame < resting.length; frame++) {
    if (!resting[frame]) continue;
    let edge = RAMP;
    for (let k = 1; k < RAMP; k++) {
      const [before, after] = [frame - k, frame + k];
      if ((before >= 0 && !resting[before]) || (after < resting.length && !resting[after])) {
        edge = k;
        break;
      }
    }
    out[frame] = edge / RAMP;
  }
  return out;
}
