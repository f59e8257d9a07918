/**
 * Where the network's points lie beside the anatomical joints, as parts of the body height, in the
 * axes of the bone named: +X to the performer's left (mirrored for the right), +Y up, +Z to the front
 * of the rest pose. Fitted to four takes of three made-up bodies whose joints are known
 * with `npm run offsets`: the offset that brings the joints' pictures nearest to the marks.
 */
export const MARK_OFFSETS = {
  Shoulder: [-0.0029, 0.0105, 0.0078],
  Elbow: [-0.0078, 0.0023, 0.0043],
  Wrist: [-0.0014, 0.0032, 0.0041],
  Hip: [0.0069, 0.0011, 0.0024],
  Knee: [-0.0023, -0.0019, 0.0044],
  Ankle: [-0.0043, 0.0214, 0.0001],
  Heel: [-0.0107, -0.0067, -0.0276],
  FootIndex: [-0.0069, -0.0382, 0.1173],
} as const satisfies Record<string, readonly [number, number, number]>;

/** How long the network's 3D points make a bone, against the distance of the joints: the mean of the same takes, each within ±0.04. */
export const NETWORK_LENGTH = { upperArm: 0.86, foreArm: 0.98, shoulders: 0.94, hips: 1.27 } as const;
