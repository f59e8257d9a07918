/** An upright picture, three bytes for each pixel (R, G, B), rows from the top. */
export interface Picture {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** A turned square of a picture. */
export interface Region {
  /** Centre, pixels. */
  readonly x: number;
  readonly y: number;
  /** Edge, pixels. */
  readonly size: number;
  /** Clockwise turn as seen on the screen, radians. */
  readonly angle: number;
}

/** A place in the region (0 … 1 from its top left corner) as a place in the picture. */
export function regionToPicture(region: Region, u: number, v: number): [number, number] {
  const c = Math.cos(region.angle) * region.size;
  const s = Math.sin(region.angle) * region.size;
  return [region.x + c * (u - 0.5) - s * (v - 0.5), region.y + s * (u - 0.5) + c * (v - 0.5)];
}
