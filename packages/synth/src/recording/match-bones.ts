import type { Skeleton } from '@merry-shadow/core/motion/skeleton';

/** Which joints of some skeleton are a person's; −1 where there is none. */
export interface MatchedSide {
  upperArm: number;
  foreArm: number;
  wrist: number;
  thigh: number;
  knee: number;
  ankle: number;
  /** Ball of the foot; −1 when the foot ends without one. */
  ball: number;
}
export interface MatchedBones {
  hips: number;
  chest: number;
  neck: number;
  head: number;
  left: MatchedSide;
  right: MatchedSide;
}

/**
 * Finds a person in a skeleton by its shape, whatever its bones are called: hips are where two legs and a
 * spine part, the chest is where two arms and a neck part; thigh and shin, upper arm and forearm are told by their
 * names, or are the last two long bones in a row of their limb. Sides come from the names where they tell them, or from the rest pose.
 * @param rest joints × 3: places in the rest pose.
 * @param up the axis that points up, a unit vector.
 * @throws Error saying which part was not found.
 */
export function matchBones(skeleton: Skeleton, rest: Float64Array, up: readonly number[]): MatchedBones {
  const { joints } = skeleton;
  const children = joints.map((_, i) => joints.flatMap((joint, k) => (joint.parent === i ? [k] : [])));
  const size = joints.map(() => 1);
  const reach = joints.map(() => 0);
  for (let i = joints.length - 1; i > 0; i--) {
    const parent = joints[i].parent;
    size[parent] += size[i];
    reach[parent] = Math.max(reach[parent], reach[i] + lengthOf(i));
  }
  function lengthOf(i: number): number {
    return Math.hypot(...joints[i].offset);
  }
  /** The longest of the branches below a joint. */
  const longest = (list: readonly number[]): number[] => [...list].sort((a, b) => far(b) - far(a));
  const far = (i: number): number => reach[i] + lengthOf(i);
  const whole = Math.max(...joints.map((_, i) => far(i)));
  const limbs = (i: number): number[] => children[i].filter((child) => far(child) > 0.15 * whole);

  let hips = 0;
  while (limbs(hips).length < 3) {
    const next = limbs(hips);
    if (next.length === 0) throw new Error('No hips were found: nowhere do two legs and a spine part.');
    hips = longest(next)[0];
  }
  const below = limbs(hips);
  const spine = below.reduce((a, b) =>
    branches(b) > branches(a) || (branches(b) === branches(a) && size[b] > size[a]) ? b : a,
  );
  const legs = longest(below.filter((child) => child !== spine)).slice(0, 2);
  if (legs.length < 2) throw new Error('Only one leg was found.');
  let chest = spine;
  while (children[chest].filter((child) => far(child) > 0.08 * whole).length < 3) {
    const next = longest(children[chest])[0];
    if (next === undefined) throw new Error('No chest was found: nowhere do two arms and a neck part.');
    chest = next;
  }
  /** How many joints above a limb part into three or more. */
  function branches(i: number): number {
    return (limbs(i).length > 1 ? 1 : 0) + children[i].reduce((sum, child) => sum + branches(child), 0);
  }
  const arms = longest(children[chest]).slice(0, 2);
  const necks = children[chest].filter((child) => !arms.includes(child));
  const height = (i: number): number => [0, 1, 2].reduce((sum, k) => sum + rest[i * 3 + k] * up[k], 0);
  const neck = necks.sort(
    (a, b) => Number(isHead(joints[b].name)) - Number(isHead(joints[a].name)) || height(b) - height(a),
  )[0];
  let head = neck;
  while (children[head].length === 1 && !/head/i.test(joints[head].name)) [head] = children[head];

  const chain = (start: number): number[] => {
    const path = [start];
    for (let at = start; children[at].length > 0; path.push(at)) at = longest(children[at])[0];
    return path;
  };
  /** First joint of a limb's two long bones: told by the name of the second, or the last two in a row that are long. */
  const pair = (path: readonly number[]): number => {
    const named = path.findIndex((joint, i) => i > 0 && i + 1 < path.length && LOWER_BONE.test(joints[joint].name));
    if (named > 0) return named - 1;
    const longestBone = Math.max(...path.slice(1).map(lengthOf));
    for (let i = path.length - 3; i >= 0; i--)
      if (Math.min(lengthOf(path[i + 1]), lengthOf(path[i + 2])) > LONG * longestBone) return i;
    throw new Error('A limb with less than three joints was found.');
  };
  const limb = (start: number): [number, number, number, number] => {
    const path = chain(start);
    const i = pair(path);
    return [path[i], path[i + 1], path[i + 2], path[i + 3] ?? -1];
  };
  const [leg1, leg2] = legs.map(limb);
  const [arm1, arm2] = arms.map(limb);
  const front = frontOf([leg1, leg2], rest, joints, up);
  const leftOf = (a: readonly number[], b: readonly number[]): boolean => {
    const named = sideOf(joints[a[0]].name) ?? sideOf(joints[a[2]].name);
    if (named) return named === 'left';
    const across = [0, 1, 2].map((k) => rest[a[0] * 3 + k] - rest[b[0] * 3 + k]);
    const left = [
      up[1] * front[2] - up[2] * front[1],
      up[2] * front[0] - up[0] * front[2],
      up[0] * front[1] - up[1] * front[0],
    ];
    return across.reduce((sum, value, k) => sum + value * left[k], 0) > 0;
  };
  const [leftLeg, rightLeg] = leftOf(leg1, leg2) ? [leg1, leg2] : [leg2, leg1];
  const [leftArm, rightArm] = leftOf(arm1, arm2) ? [arm1, arm2] : [arm2, arm1];
  const side = (arm: readonly number[], leg: readonly number[]): MatchedSide => ({
    upperArm: arm[0],
    foreArm: arm[1],
    wrist: arm[2],
    thigh: leg[0],
    knee: leg[1],
    ankle: leg[2],
    ball: leg[3],
  });
  return { hips, chest, neck, head, left: side(leftArm, leftLeg), right: side(rightArm, rightLeg) };
}

/** Joints at which elbows and knees bend, as their names tell: the bone that hangs on them is the limb's lower one. */
const LOWER_BONE = /fore_?arm|low(er)?_?arm|elbow|knee|shin|calf|low(er)?_?leg|(^|[:_.\s])(left|right|[lr]_?)leg$/i;
/** Collar bones, hands and feet are shorter than this part of their limb's longest bone. */
const LONG = 0.55;

const isHead = (name: string): boolean => /neck|head/i.test(name);

/** Which side a name tells, if any: "LeftArm", "arm_l", "L_Thigh", "thigh.R", "rShldr". */
export function sideOf(name: string): 'left' | 'right' | null {
  if (/left/i.test(name)) return 'left';
  if (/right/i.test(name)) return 'right';
  const match =
    /(?:^|[_.:\s-])([lr])(?:$|[_.:\s-])/i.exec(name) ?? /^([lr])(?=[A-Z])/.exec(name) ?? /[a-z]([LR])$/.exec(name);
  return match ? (match[1].toLowerCase() === 'l' ? 'left' : 'right') : null;
}

/** Where the feet point in the rest pose: from ankles to balls or toes, level. */
function frontOf(
  legs: readonly (readonly number[])[],
  rest: Float64Array,
  joints: Skeleton['joints'],
  up: readonly number[],
): number[] {
  const sum = [0, 0, 0];
  for (const [, , ankle, ball] of legs) {
    const end =
      ball >= 0 ? [0, 1, 2].map((k) => rest[ball * 3 + k] - rest[ankle * 3 + k]) : (joints[ankle].tip ?? [0, 0, 0]);
    for (let k = 0; k < 3; k++) sum[k] += end[k];
  }
  const rise = sum.reduce((total, value, k) => total + value * up[k], 0);
  const level = sum.map((value, k) => value - rise * up[k]);
  const length = Math.hypot(...level);
  return length < 1e-6 ? [0, 0, 1] : level.map((value) => value / length);
}
