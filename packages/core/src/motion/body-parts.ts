import { mirrorName } from './humanoid';

/** Parts of the body that a person chooses when an operation is not meant for all of it. */
export const BODY_PARTS = [
  'root',
  'trunk',
  'head',
  'leftArm',
  'rightArm',
  'leftHand',
  'rightHand',
  'leftLeg',
  'rightLeg',
  'face',
] as const;
export type BodyPart = (typeof BODY_PARTS)[number];

const TRUNK = new Set(['hips', 'spine', 'chest', 'upperChest', 'leftShoulder', 'rightShoulder']);

/** Which part of the body a joint of the humanoid skeleton belongs to; `root` is the path, not a joint. */
export function bodyPartOf(joint: string): BodyPart {
  if (TRUNK.has(joint)) return 'trunk';
  if (joint.startsWith('right')) {
    const left = bodyPartOf(mirrorName(joint));
    return left.replace('left', 'right') as BodyPart;
  }
  if (!joint.startsWith('left')) return 'head';
  if (/^left(UpperLeg|LowerLeg|Foot|Toes)$/.test(joint)) return 'leftLeg';
  if (/^left(UpperArm|LowerArm)$/.test(joint)) return 'leftArm';
  return joint.startsWith('leftEye') ? 'head' : 'leftHand';
}
