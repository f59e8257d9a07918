import type { CapturedParts, Observations } from '@merry-shadow/core/observe/observations';

/** What passes between the live view and its worker: which parts are followed from now on, and pictures. */
export type LiveOrder = { parts: CapturedParts } | { picture: ImageBitmap; seconds: number };
export type LiveAnswer =
  | { state: 'ready' }
  | { problem: string }
  | {
      picture: ImageBitmap;
      /** The one frame. */
      observations: Observations;
      /** Brightness of the performer, 0 … 255, and how fast the camera moves, parts of the long side in a second; null where it is not told. */
      light: number | null;
      camera: number | null;
      /** What it took, milliseconds. */
      took: number;
    };
