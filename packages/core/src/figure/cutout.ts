import { jointIndex, restPositions, type Skeleton } from '../motion/skeleton';
import { fingerBones, FINGERS, hasFingers, SIDES } from '../motion/humanoid';
import { figureScale, meshPieces, type Piece } from './pieces';

/**
 * A simple solid body for a skeleton: one rounded, tapered piece for each bone, like a cut-out figure.
 * It stands for the performer in the 3D view and in exported files without a character. Its face is `cutout-face.ts`.
 */
export interface CutoutFigure {
  /** vertices × 3, metres, rest pose. */
  positions: Float32Array;
  normals: Float32Array;
  indices: Uint32Array;
  /** vertices × 4 joint indices and weights. */
  joints: Uint16Array;
  weights: Float32Array;
  /** Whose side: 0 middle, 1 left, 2 right. */
  sides: Uint8Array;
}

/** Builds the figure. Sizes follow the bone lengths; a skeleton with fingers gets a palm with fingers. */
export function cutoutFigure(skeleton: Skeleton): CutoutFigure {
  const rest = restPositions(skeleton);
  const pieces = bodyPieces(skeleton, rest);
  const { owners, ...mesh } = meshPieces(pieces, ({ joint }) => {
    const at = jointIndex(skeleton, joint) * 3;
    return [rest[at], rest[at + 1], rest[at + 2]];
  });
  const figure: CutoutFigure = {
    ...mesh,
    joints: new Uint16Array(owners.length * 4),
    weights: new Float32Array(owners.length * 4),
    sides: new Uint8Array(owners.length),
  };
  owners.forEach((owner, v) => {
    const { joint } = pieces[owner];
    figure.joints[v * 4] = jointIndex(skeleton, joint);
    figure.weights[v * 4] = 1;
    figure.sides[v] = joint.startsWith('left') ? 1 : joint.startsWith('right') ? 2 : 0;
  });
  return figure;
}

function bodyPieces(skeleton: Skeleton, rest: Float64Array): Piece[] {
  const place = (name: string): number[] => {
    const i = jointIndex(skeleton, name) * 3;
    return [rest[i], rest[i + 1], rest[i + 2]];
  };
  const has = (name: string): boolean => jointIndex(skeleton, name) >= 0;
  const span = (from: string, to: string): number[] => place(to).map((v, i) => v - place(from)[i]);
  const s = figureScale(skeleton, rest);
  const shoulder = Math.abs(place('leftUpperArm')[0]);
  const hip = Math.abs(place('leftUpperLeg')[0]);
  const waist = 0.7 * hip + 0.055 * s;
  const neck = span('upperChest', 'neck');
  const pieces: Piece[] = [
    {
      joint: 'hips',
      from: [0, -0.1 * s, 0],
      to: [0, 0.08 * s, 0],
      start: [hip + 0.07 * s, 0.1 * s],
      end: [waist + 0.03 * s, 0.1 * s],
      outline: 4,
    },
    {
      joint: 'spine',
      from: [0, -0.035 * s, 0],
      to: span('spine', 'chest').map((v) => v * 1.2),
      start: [waist, 0.09 * s],
      end: [waist + 0.02 * s, 0.095 * s],
    },
    {
      joint: 'chest',
      from: [0, -0.03 * s, 0],
      to: span('chest', 'upperChest').map((v) => v * 1.25),
      start: [waist + 0.015 * s, 0.095 * s],
      end: [shoulder * 0.88, 0.105 * s],
    },
    {
      joint: 'upperChest',
      from: [0, -0.05 * s, 0],
      to: neck.map((v) => v * 0.98),
      start: [shoulder * 0.93, 0.108 * s],
      end: [shoulder * 0.62, 0.08 * s],
    },
    {
      joint: 'neck',
      from: [0, -0.035 * s, -0.004 * s],
      to: span('neck', 'head').map((v) => v * 1.2),
      start: [0.052 * s, 0.052 * s],
      end: [0.048 * s, 0.05 * s],
    },
    {
      joint: 'head',
      from: [0, -0.05 * s, 0.02 * s],
      to: [0, 0.185 * s, 0.01 * s],
      start: [0.07 * s, 0.09 * s],
      end: [0.092 * s, 0.108 * s],
      outline: 2.6,
      rings: 18,
      spokes: 24,
    },
    // A nose, so that the direction of the head is seen from afar.
    {
      joint: 'head',
      from: [0, 0.05 * s, 0.085 * s],
      to: [0, 0.03 * s, 0.128 * s],
      start: [0.016 * s, 0.02 * s],
      end: [0.012 * s, 0.012 * s],
    },
  ];
  for (const side of SIDES) {
    const k = side === 'left' ? 1 : -1;
    const out = (x: number): number[] => [k * x, 0, 0];
    const arm = span(`${side}UpperArm`, `${side}LowerArm`);
    const fore = span(`${side}LowerArm`, `${side}Hand`);
    const thigh = span(`${side}UpperLeg`, `${side}LowerLeg`);
    const shin = span(`${side}LowerLeg`, `${side}Foot`);
    pieces.push(
      {
        joint: `${side}UpperArm`,
        from: out(-0.055 * s),
        to: arm.map((v) => v * 1.06),
        start: [0.056 * s, 0.06 * s],
        end: [0.04 * s, 0.042 * s],
      },
      {
        joint: `${side}LowerArm`,
        from: out(-0.02 * s),
        to: fore.map((v) => v * 1.02),
        start: [0.043 * s, 0.043 * s],
        end: [0.03 * s, 0.027 * s],
      },
      ...(hasFingers(skeleton) ? fingeredHand(skeleton, side, s) : [mittenHand(side, s)]),
      {
        joint: `${side}UpperLeg`,
        from: [0, 0.07 * s, 0],
        to: thigh.map((v) => v * 1.04),
        start: [0.082 * s, 0.088 * s],
        end: [0.055 * s, 0.057 * s],
      },
      {
        joint: `${side}LowerLeg`,
        from: [0, 0.03 * s, 0],
        to: shin.map((v) => v * 1.03),
        start: [0.055 * s, 0.058 * s],
        end: [0.037 * s, 0.041 * s],
      },
    );
    const ankle = place(`${side}Foot`)[1];
    const ball = has(`${side}Toes`) ? span(`${side}Foot`, `${side}Toes`) : [0, -0.75 * ankle, 0.15 * s];
    pieces.push({
      joint: `${side}Foot`,
      from: [0, -0.55 * ankle, -0.8 * ankle],
      to: [0, -0.58 * ankle, ball[2] + 0.02 * s],
      start: [0.038 * s, 0.45 * ankle],
      end: [0.045 * s, 0.4 * ankle],
    });
    if (has(`${side}Toes`)) {
      const toeUp = place(`${side}Toes`)[1];
      pieces.push({
        joint: `${side}Toes`,
        from: [0, 0.32 * ankle - toeUp, -0.03 * s],
        to: [0, 0.3 * ankle - toeUp, 0.075 * s],
        start: [0.045 * s, 0.32 * ankle],
        end: [0.036 * s, 0.26 * ankle],
      });
    }
  }
  return pieces;
}

/** A hand without fingers. */
function mittenHand(side: 'left' | 'right', s: number): Piece {
  const k = side === 'left' ? 1 : -1;
  return {
    joint: `${side}Hand`,
    from: [-0.012 * k * s, 0, 0],
    to: [0.17 * k * s, 0, 0],
    start: [0.034 * s, 0.02 * s],
    end: [0.038 * s, 0.014 * s],
  };
}

/** A palm and a piece for each bone of the fingers. */
function fingeredHand(skeleton: Skeleton, side: 'left' | 'right', s: number): Piece[] {
  const offsetOf = (bone: string): readonly number[] => skeleton.joints[jointIndex(skeleton, side + bone)].offset;
  const middle = offsetOf('MiddleProximal');
  const pieces: Piece[] = [
    {
      joint: `${side}Hand`,
      from: [-0.06 * middle[0], 0, 0],
      to: middle.map((value, k) => value * (k === 2 ? -0.5 : 1.08)),
      start: [0.03 * s, 0.019 * s],
      end: [0.041 * s, 0.013 * s],
    },
  ];
  for (const finger of FINGERS) {
    const [first, second, third] = fingerBones(finger).map((bone) => finger + bone);
    const thick = (finger === 'Thumb' ? 0.0125 : finger === 'Little' ? 0.0088 : 0.0104) * s;
    const tip = skeleton.joints[jointIndex(skeleton, side + third)].tip ?? offsetOf(third);
    [offsetOf(second), offsetOf(third), tip].forEach((to, i) =>
      pieces.push({
        joint: side + [first, second, third][i],
        from: to.map((value) => -0.08 * value),
        to: to.map((value) => 1.05 * value),
        start: [thick * (1.05 - 0.08 * i), thick * (1.05 - 0.08 * i)],
        end: [thick * (0.96 - 0.08 * i), thick * (0.96 - 0.08 * i)],
        rings: 4,
        spokes: 8,
      }),
    );
  }
  return pieces;
}
