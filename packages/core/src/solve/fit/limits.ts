import { SIDES } from '../../motion/humanoid';

/** Hinges bend between these, radians, and how softly they are bound. */
const HINGE: readonly [least: number, most: number] = [0.06, 2.7];
export const HINGE_SIGMA = 0.05;

/**
 * How far a hinge is from where it can bend to, radians; 0 where it is well.
 * Bent on beyond a half turn is bent too far, not the other way: it comes back the short way.
 */
export function beyondHinge(bend: number): number {
  const near = Math.atan2(-Math.cos(bend), Math.sin(bend)) + Math.PI / 2;
  return near < HINGE[0] ? HINGE[0] - near : near > HINGE[1] ? HINGE[1] - near : 0;
}

/** How far a bone can turn against another: bounds of the cosine between them, and how softly they bound. */
export interface Limit {
  /** Where the bone begins and ends, where the other one does: names of the body model's points. */
  of: readonly [from: string, to: string, otherFrom: string, otherTo: string];
  least: number;
  most: number;
  sigma: number;
}

/** What joints can do, beside hinges: where marks are seen badly, the solve would turn bones beyond it. */
export const LIMITS: readonly Limit[] = SIDES.flatMap((side): Limit[] => {
  const across = side === 'left' ? 'right' : 'left';
  return [
    // Shin (downwards) and foot (heel to toe): from toes pulled up by 30° to toes stretched by 50°.
    { of: [`${side}Knee`, `${side}Ankle`, `${side}Heel`, `${side}FootIndex`], least: -0.3, most: 0.88, sigma: 0.1 },
    // Upper arm and the line of the shoulders outwards: elbows hardly come before the other side of the chest.
    { of: [`${side}Shoulder`, `${side}Elbow`, `${across}Shoulder`, `${side}Shoulder`], least: 0, most: 1, sigma: 0.1 },
    // Thighs face ahead or up, feet the way of the shin: a straight leg seen from behind would turn round.
    { of: [`${side}Hip`, `${side}HipFront`, `${side}Knee`, `${side}Kneecap`], least: 0, most: 1, sigma: 0.2 },
    { of: [`${side}Ankle`, `${side}ShinFront`, `${side}Heel`, `${side}FootIndex`], least: 0.4, most: 1, sigma: 0.2 },
  ];
});
