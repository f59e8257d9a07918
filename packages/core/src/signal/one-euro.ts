/** Cut-off at rest, Hz, how it grows with speed, and the cut-off of the speed itself. */
export interface OneEuro {
  least: number;
  beta: number;
  speed?: number;
}

/**
 * The one-euro filter (G. Casiez, N. Roussel and D. Vogel, 2012), forwards and then backwards, so that nothing is delayed: what rests is calm,
 * what is fast, as a blink, keeps its height.
 * @param values one for each frame. @param rate frames in a second.
 */
export function oneEuroBothWays(values: ArrayLike<number>, rate: number, options: OneEuro): Float64Array {
  const forwards = oneEuro(values, rate, options);
  return oneEuro(forwards.reverse(), rate, options).reverse();
}

function oneEuro(values: ArrayLike<number>, rate: number, { least, beta, speed = 1 }: OneEuro): Float64Array {
  const out = new Float64Array(values.length);
  let slope = 0;
  for (let i = 0; i < values.length; i++) {
    if (i === 0) {
      out[0] = values[0];
      continue;
    }
    slope += share(speed, rate) * ((values[i] - out[i - 1]) * rate - slope);
    out[i] = out[i - 1] + share(least + beta * Math.abs(slope), rate) * (values[i] - out[i - 1]);
  }
  return out;
}

/** How much of a new value counts with a cut-off in Hz. */
function share(cutoff: number, rate: number): number {
  const r = (2 * Math.PI * cutoff) / rate;
  return r / (r + 1);
}
