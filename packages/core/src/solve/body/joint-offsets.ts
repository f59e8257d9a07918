import type { Side } from '../../motion/humanoid';

/**
 * Where the network's points lie beside the anatomical joints, as parts of the body height, in the
 * axes of the bone named: +X to the performer's left (mirrored for the right), +Y up, +Z to the front
 * of the rest pose. Shoulders, elbows and wrists take what five families of figures tell together, drawn to nothing by how much they differ
 * (`./run train --offsets`); hips and knees, on which they do not agree, none. Ankles and feet were fitted to the takes of the demo:
 * what the families tell of them made older clips worse and brought the families nothing.
 */
export const MARK_OFFSETS = {
  Shoulder: [-0.0026, 0.0038, 0.0014],
  Elbow: [-0.0084, 0.0014, 0.0031],
  Wrist: [0, 0.0015, 0.0035],
  Hip: [0, 0, 0],
  Knee: [0, 0, 0],
  Ankle: [-0.0043, 0.0214, 0.0001],
  Heel: [-0.0107, -0.0067, -0.0276],
  FootIndex: [-0.0069, -0.0382, 0.1173],
} as const satisfies Record<string, readonly [number, number, number]>;

/** A part of the body that marks of both sides show. */
export type MarkPart = keyof typeof MARK_OFFSETS;
export const MARK_PARTS = Object.keys(MARK_OFFSETS) as MarkPart[];

/** At which joint each mark lies, and with which bone its offset turns. */
const BONES: Record<MarkPart, readonly [joint: string, bone: string]> = {
  Shoulder: ['UpperArm', 'upperChest'],
  Elbow: ['LowerArm', 'UpperArm'],
  Wrist: ['Hand', 'LowerArm'],
  Hip: ['UpperLeg', 'hips'],
  Knee: ['LowerLeg', 'UpperLeg'],
  Ankle: ['Foot', 'LowerLeg'],
  Heel: ['Foot', 'Foot'],
  FootIndex: ['Foot', 'Foot'],
};

/** Names of the joint at which a mark of a side lies and of the joint that its offset turns with, and that offset in body heights. */
export function markPlace(
  side: Side,
  part: MarkPart,
): { joint: string; turnsWith: string; offset: [number, number, number] } {
  const [joint, bone] = BONES[part];
  const [x, y, z] = MARK_OFFSETS[part];
  const middle = bone === 'hips' || bone === 'upperChest';
  return { joint: side + joint, turnsWith: middle ? bone : side + bone, offset: [side === 'left' ? x : -x, y, z] };
}

/** How long the network's 3D points make a bone in its least foreshortened frames, against the distance of the joints: the mean of five families of figures. */
export const NETWORK_LENGTH = { upperArm: 0.875, foreArm: 0.985, shoulders: 0.95, hips: 1.21 } as const;

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
