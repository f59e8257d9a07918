/** Late light over the harbour: one key light, a sky and a warm bounce. Linear light. */
const direction = [0.46, 0.78, 0.42];
const length = Math.hypot(...direction);

export const LIGHT = {
  /** From the scene towards the lamp. */
  toward: direction.map((v) => v / length) as [number, number, number],
  key: [1.35, 1.18, 0.95] as const,
  sky: [0.44, 0.5, 0.6] as const,
  ground: [0.26, 0.22, 0.17] as const,
};

/** Light on a surface: normal, how much of the lamp reaches it, how open it is. */
export function lit(nx: number, ny: number, nz: number, lamp: number, openness: number, out: Float64Array): void {
  const [lx, ly, lz] = LIGHT.toward;
  const wrap = Math.max(0, (nx * lx + ny * ly + nz * lz + 0.12) / 1.12) * lamp;
  const up = 0.5 + 0.5 * ny;
  for (let c = 0; c < 3; c++)
    out[c] = LIGHT.key[c] * wrap + (LIGHT.sky[c] * up + LIGHT.ground[c] * (1 - up)) * openness;
}

const curve = Uint8Array.from({ length: 4097 }, (_, i) => {
  const v = i / 4096;
  return Math.round(255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055));
});

/** Linear light to an 8-bit sRGB value, with a soft shoulder above 0.8. */
export function toDisplay(value: number): number {
  const soft = value < 0.7 ? value : 0.7 + 0.3 * (1 - Math.exp(-(value - 0.7) / 0.3));
  return curve[Math.max(0, Math.min(4096, Math.round(soft * 4096)))];
}
