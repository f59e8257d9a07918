/**
 * The one-euro filter (G. Casiez, N. Roussel, D. Vogel, CHI 2012): a low-pass filter that opens up
 * as the value moves faster.
 */
export interface OneEuroOptions {
  /** Cut-off at rest, hertz. */
  minCutoff: number;
  beta: number;
  /** Cut-off for the speed, hertz. */
  derivativeCutoff: number;
}

function smoothingFactor(cutoff: number, seconds: number): number {
  const tau = 1 / (2 * Math.PI * cutoff);
  return 1 / (1 + tau / seconds);
}

export class OneEuroFilter {
  private lastRaw = NaN;
  private value = NaN;
  private speed = 0;

  constructor(private readonly options: OneEuroOptions) {}

  reset(): void {
    this.lastRaw = NaN;
    this.value = NaN;
    this.speed = 0;
  }

  /** @param seconds since the last value. @param scale brings the speed to the unit that beta is made for. */
  next(raw: number, seconds: number, scale: number): number {
    if (Number.isNaN(this.lastRaw)) {
      this.lastRaw = raw;
      this.value = raw;
      return raw;
    }
    const { minCutoff, beta, derivativeCutoff } = this.options;
    const derivative = ((raw - this.lastRaw) * scale) / seconds;
    const smooth = smoothingFactor(derivativeCutoff, seconds);
    this.speed += (derivative - this.speed) * smooth;
    const cutoff = minCutoff + beta * Math.abs(this.speed);
    this.value += (raw - this.value) * smoothingFactor(cutoff, seconds);
    this.lastRaw = raw;
    return this.value;
  }
}
