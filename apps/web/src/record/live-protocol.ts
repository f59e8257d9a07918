/** What passes between the live view and its worker. */
export type LiveOrder = { picture: ImageBitmap; seconds: number };
export type LiveAnswer =
  | { state: 'ready' }
  | { problem: string }
  /** A frame with its marks (33 × 3, pixels and visibility) and world points, null where nobody is seen; what it took, ms. */
  | {
      picture: ImageBitmap;
      marks: Float32Array | null;
      world: Float32Array | null;
      presence: number;
      /** Brightness of the performer, 0 … 255, and how fast the camera moves, parts of the long side in a second; null where it is not told. */
      light: number | null;
      camera: number | null;
      width: number;
      height: number;
      took: number;
    };
