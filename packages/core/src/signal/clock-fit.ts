/** How a clock of its own runs against ours: ours = rate × own + offset, seconds. */
export interface ClockFit {
  rate: number;
  offset: number;
}

/** No clock of a device runs faster or slower than by this part. */
const MOST_DRIFT = 0.002;

/**
 * Tells how a device's clock runs, from frames that carry its times and come to us after delays that vary. No frame comes before it was made, so all arrivals lie
 * above the line that is sought; it is the one below all of them that lies closest: an edge of their lower convex hull, the one over their mean time
 * (Moon, Skelly and Towsley, "Estimation and removal of clock skew from network delay measurements", 1999). The shortest delay counts as none.
 * @param own times by the device's clock, rising, seconds. @param arrived when each came, by our clock, seconds; one or more.
 */
export function fitClock(own: readonly number[], arrived: readonly number[]): ClockFit {
  const hull: number[] = [];
  const turnsDown = (a: number, b: number, c: number): boolean =>
    (arrived[b] - arrived[a]) * (own[c] - own[a]) >= (arrived[c] - arrived[a]) * (own[b] - own[a]);
  for (let i = 0; i < own.length; i++) {
    while (hull.length > 1 && turnsDown(hull[hull.length - 2], hull[hull.length - 1], i)) hull.pop();
    hull.push(i);
  }
  const mean = own.reduce((sum, time) => sum + time, 0) / own.length;
  const after = Math.max(
    1,
    hull.findIndex((i) => own[i] >= mean),
  );
  const [a, b] = [hull[after - 1], hull[after]];
  const slope = b === undefined || own[b] === own[a] ? 1 : (arrived[b] - arrived[a]) / (own[b] - own[a]);
  const rate = Math.min(1 + MOST_DRIFT, Math.max(1 - MOST_DRIFT, slope));
  let offset = Infinity;
  for (let i = 0; i < own.length; i++) offset = Math.min(offset, arrived[i] - rate * own[i]);
  return { rate, offset };
}
