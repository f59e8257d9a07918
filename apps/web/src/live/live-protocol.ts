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
      width: number;
      height: number;
      took: number;
    };
