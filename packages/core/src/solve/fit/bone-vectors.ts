/** Bones whose vectors the network's 3D points tell: pairs of point names. */
export const BONES: readonly (readonly [from: string, to: string])[] = [
  ['leftShoulder', 'rightShoulder'],
  ['leftHip', 'rightHip'],
  ['leftHip', 'leftShoulder'],
  ['rightHip', 'rightShoulder'],
  ...(['left', 'right'] as const).flatMap((side) =>
    (
      [
        ['Shoulder', 'Elbow'],
        ['Elbow', 'Wrist'],
        ['Hip', 'Knee'],
        ['Knee', 'Ankle'],
        ['Heel', 'FootIndex'],
      ] as const
    ).map(([a, b]) => [side + a, side + b] as const),
  ),
];
