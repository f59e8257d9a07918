/** A network that is ready to run, on whatever runtime. */
export interface Net {
  /** Whether pictures go in (and maps come out) channel by channel (NCHW) or pixel by pixel (NHWC). */
  readonly planar: boolean;
  /**
   * Runs the network once. The results may be overwritten by the next run.
   * @param inputs one array for each input, in the network's order.
   * @returns one array for each output, in the order asked for when it was made.
   */
  run(...inputs: Float32Array[]): Promise<Float32Array[]>;
  close(): Promise<void>;
}

export const BODY_NETS = ['bodyDetector', 'bodyMarks'] as const;
export const HAND_NETS = ['handRecrop', 'handMarks'] as const;
export const FACE_NETS = ['faceMarks', 'faceCheck', 'faceLips', 'faceRightEye', 'faceLeftEye'] as const;
export type BodyNets = Record<(typeof BODY_NETS)[number], Net>;
export type HandNets = Record<(typeof HAND_NETS)[number], Net>;
export type FaceNets = Record<(typeof FACE_NETS)[number], Net>;

/** The networks of the tracker by name; hands and face only where they are wanted. */
export type NetName = keyof BodyNets | keyof HandNets | keyof FaceNets;
export type Nets = BodyNets & Partial<HandNets> & Partial<FaceNets>;

/** @throws Error when the networks of a part were not opened. */
export function handNets(nets: Nets): HandNets {
  if (!nets.handRecrop || !nets.handMarks) throw new Error('The networks for hands were not opened.');
  return nets as HandNets;
}

/** @throws Error when the networks of a part were not opened. */
export function faceNets(nets: Nets): FaceNets {
  if (FACE_NETS.some((name) => !nets[name])) throw new Error('The networks for the face were not opened.');
  return nets as unknown as FaceNets;
}

/** The networks that a capture needs. */
export function neededNets(parts: { hands: boolean; face: boolean }): NetName[] {
  return [...BODY_NETS, ...(parts.hands ? HAND_NETS : []), ...(parts.face ? FACE_NETS : [])];
}
