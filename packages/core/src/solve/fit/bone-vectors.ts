import { NETWORK_LENGTH } from '../joint-offsets';

/** Bones whose vectors the network's 3D points tell: pairs of point names, and what the network makes of their length. */
export const BONES: readonly (readonly [from: string, to: string, networkLength: number])[] = [
  ['leftShoulder', 'rightShoulder', NETWORK_LENGTH.shoulders],
  ['leftHip', 'rightHip', NETWORK_LENGTH.hips],
  ['leftHip', 'leftShoulder', 1],
  ['rightHip', 'rightShoulder', 1],
  ...(['left', 'right'] as const).flatMap((side) =>
    (
      [
        ['Shoulder', 'Elbow', NETWORK_LENGTH.upperArm],
        ['Elbow', 'Wrist', NETWORK_LENGTH.foreArm],
        ['Hip', 'Knee', 1],
        ['Knee', 'Ankle', 1],
        ['Heel', 'FootIndex', 1],
      ] as const
    ).map(([a, b, length]) => [side + a, side + b, length] as const),
  ),
];
