/**
 * Where the network's points lie beside the anatomical joints, as parts of the body height, in the
 * axes of the bone named: +X to the performer's left (mirrored for the right), +Y up, +Z to the front
 * of the rest pose. Fitted to the four takes of the demo, three made-up bodies whose joints are known: the
 * offset that brings the joints' pictures nearest to the marks (weighted least squares over all frames).
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

/**
 * How far the network's 3D points lean bones ahead, about the body's own left, radians: shoulders too far
 * ahead of the hips, knees too far ahead of the line from hip to ankle. Chosen on the takes of the demo and
 * the workshop by what brings the solve nearest to the truth; the biases measured there are 5 … 18° for the
 * trunk and half of these values are already better than none.
 */
export const NETWORK_LEAN = {
  trunk: (8 * Math.PI) / 180,
  thigh: (4 * Math.PI) / 180,
  shin: (-4 * Math.PI) / 180,
} as const;

/** How deep joints lie below the skin that a depth camera sees, as parts of the body height: half the thickness of trunk and limbs there. */
const BELOW_SKIN: readonly (readonly [part: RegExp, depth: number])[] = [
  [/Shoulder$/, 0.039],
  [/Hip$/, 0.053],
  [/Knee$/, 0.035],
  [/Elbow$/, 0.026],
  [/Ankle$/, 0.037],
];
const BELOW_THIN = 0.018;

/** How far a mark's joint lies behind the surface seen there, in body heights. */
export const markDepth = (mark: string): number => BELOW_SKIN.find(([part]) => part.test(mark))?.[1] ?? BELOW_THIN;
