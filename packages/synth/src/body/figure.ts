import { SIDES } from '@merry-shadow/core/motion/humanoid';
import type { Skeleton } from '@merry-shadow/core/motion/skeleton';
import type { Performer } from '../choreography/script';
import { material } from './materials';
import { mix, plus, restBody } from './rest-joints';
import type { Shape, Vec } from './shapes';

/** The shapes of one performer in T-pose, in two parts that are meshed at different fineness. */
export interface FigureShapes {
  body: Shape[];
  head: Shape[];
}

/** Builds anatomical, blended shapes over the skeleton; clothes are slightly larger shapes. */
export function figureShapes(performer: Performer, skeleton: Skeleton): FigureShapes {
  const { joint, s, g, h } = restBody(performer, skeleton);
  const cone = (bone: string, a: Vec, b: Vec, r1: number, r2: number, mat: number, blend = 0.03, flat = 1): Shape => ({
    kind: 'cone',
    a,
    b,
    radii: [r1, r2],
    flat,
    material: mat,
    bone,
    blend: blend * s,
  });
  const blob = (bone: string, a: Vec, b: Vec, mat: number, blend = 0.03): Shape => ({
    kind: 'ellipsoid',
    a,
    b,
    material: mat,
    bone,
    blend: blend * s,
  });
  const m = {
    shirt: material('shirt'),
    trousers: material('trousers'),
    shoes: material('shoes'),
    skin: material('skin'),
    collar: material('collar'),
  };

  const [hips, spine, chest, upper, neck] = ['hips', 'spine', 'chest', 'upperChest', 'neck'].map(joint);
  const shoulderHalf = joint('leftUpperArm')[0];
  const hipHalf = joint('leftUpperLeg')[0];
  const body: Shape[] = [
    blob('hips', plus(hips, 0, -0.01 * s, -0.012 * s), [hipHalf + 0.064 * g, 0.115 * s, 0.11 * g], m.trousers, 0.05),
    blob('hips', plus(hips, 0, 0.05 * s, -0.004 * s), [0.143 * g, 0.06 * s, 0.108 * g], m.trousers, 0.04),
    blob('spine', plus(spine, 0, 0.03 * s, 0), [0.142 * g, 0.13 * s, 0.098 * g], m.shirt, 0.04),
    blob('chest', plus(chest, 0, 0.06 * s, 0.004 * s), [0.152 * g, 0.14 * s, 0.108 * g], m.shirt, 0.05),
    blob('upperChest', plus(upper, 0, 0.045 * s, -0.006 * s), [shoulderHalf * 0.86, 0.115 * s, 0.1 * g], m.shirt, 0.05),
    blob('hips', plus(hips, 0, 0.082 * s, 0), [0.148 * g, 0.026 * s, 0.11 * g], material('belt'), 0.012),
    blob('hips', plus(hips, 0, 0.12 * s, 0), [0.15 * g, 0.055 * s, 0.112 * g], m.shirt, 0.012),
    cone(
      'neck',
      plus(neck, 0, -0.03 * s, -0.008 * s),
      plus(neck, 0, 0.032 * s, 0),
      0.085 * s,
      0.069 * s,
      m.collar,
      0.012,
    ),
  ];
  for (const side of SIDES) {
    const k = side === 'left' ? 1 : -1;
    const [clavicle, arm, elbow, hand] = ['Shoulder', 'UpperArm', 'LowerArm', 'Hand'].map((part) => joint(side + part));
    const [hip, knee, ankle, toes] = ['UpperLeg', 'LowerLeg', 'Foot', 'Toes'].map((part) => joint(side + part));
    const bone = (part: string): string => side + part;
    body.push(
      cone(
        bone('Shoulder'),
        plus(clavicle, 0, 0, -0.01 * s),
        plus(arm, -k * 0.02 * s, 0.006 * s, 0),
        0.062 * g,
        0.064 * g,
        m.shirt,
        0.06,
      ),
      blob(bone('UpperArm'), plus(arm, k * 0.012 * s, 0, 0), [0.07 * g, 0.066 * g, 0.064 * g], m.shirt, 0.05),
      cone(bone('UpperArm'), arm, mix(arm, elbow, 0.98), 0.059 * g, 0.047 * g, m.shirt, 0.04),
      cone(bone('LowerArm'), elbow, mix(elbow, hand, 0.35), 0.046 * g, 0.047 * g, m.shirt),
      cone(bone('LowerArm'), mix(elbow, hand, 0.35), mix(elbow, hand, 0.93), 0.047 * g, 0.036 * s, m.shirt),
      cone(bone('LowerArm'), mix(elbow, hand, 0.9), mix(elbow, hand, 0.95), 0.04 * s, 0.039 * s, m.collar, 0.006),
      blob(
        bone('UpperLeg'),
        plus(hip, k * 0.008 * s, -0.03 * s, -0.03 * s),
        [0.08 * g, 0.11 * s, 0.1 * g],
        m.trousers,
        0.05,
      ),
      cone(
        bone('UpperLeg'),
        plus(hip, k * 0.012 * s, -0.03 * s, 0),
        mix(hip, knee, 0.97),
        0.088 * g,
        0.06 * g,
        m.trousers,
        0.025,
      ),
      blob(bone('LowerLeg'), plus(knee, 0, 0, 0.012 * s), [0.056 * g, 0.07 * s, 0.056 * g], m.trousers, 0.03),
      cone(
        bone('LowerLeg'),
        plus(knee, 0, 0, -0.008 * s),
        plus(mix(knee, ankle, 0.35), 0, 0, -0.018 * s),
        0.058 * g,
        0.06 * g,
        m.trousers,
      ),
      cone(
        bone('LowerLeg'),
        plus(mix(knee, ankle, 0.35), 0, 0, -0.018 * s),
        mix(knee, ankle, 0.86),
        0.06 * g,
        0.05 * s,
        m.trousers,
      ),
      cone(bone('LowerLeg'), mix(knee, ankle, 0.78), mix(knee, ankle, 0.9), 0.054 * s, 0.054 * s, m.trousers, 0.01),
      cone(bone('LowerLeg'), mix(knee, ankle, 0.88), plus(ankle, 0, 0.01 * s, 0), 0.043 * s, 0.044 * s, m.shoes, 0.02),
      ...footShapes(side, ankle, toes, s, m.shoes),
    );
  }
  return { body, head: headShapes(performer, joint, h) };
}

function footShapes(side: string, ankle: Vec, toes: Vec, s: number, mat: number): Shape[] {
  const floor = -ankle[1];
  const sole = material('sole');
  const foot = `${side}Foot`;
  const up = (y: number): number => floor + y * s;
  return [
    {
      kind: 'cone',
      a: plus(ankle, 0, up(0.045), -0.028 * s),
      b: plus(ankle, 0, 0.01 * s, 0),
      radii: [0.041 * s, 0.042 * s],
      material: mat,
      bone: foot,
      blend: 0.03 * s,
    },
    {
      kind: 'cone',
      a: plus(ankle, 0, -0.018 * s, 0.025 * s),
      b: plus(toes, 0, up(0.045) - (toes[1] - ankle[1]), 0),
      radii: [0.042 * s, 0.041 * s],
      material: mat,
      bone: foot,
      blend: 0.03 * s,
    },
    {
      kind: 'ellipsoid',
      a: plus(toes, 0, up(0.036) - (toes[1] - ankle[1]), 0.02 * s),
      b: [0.047 * s, 0.034 * s, 0.068 * s],
      material: mat,
      bone: `${side}Toes`,
      blend: 0.03 * s,
    },
    {
      kind: 'ellipsoid',
      a: plus(ankle, 0, up(0.014), 0.045 * s),
      b: [0.047 * s, 0.014 * s, 0.118 * s],
      material: sole,
      bone: foot,
      blend: 0.012 * s,
    },
    {
      kind: 'ellipsoid',
      a: plus(toes, 0, up(0.014) - (toes[1] - ankle[1]), 0.015 * s),
      b: [0.05 * s, 0.014 * s, 0.077 * s],
      material: sole,
      bone: `${side}Toes`,
      blend: 0.012 * s,
    },
  ];
}

function headShapes(performer: Performer, joint: (name: string) => Vec, s: number): Shape[] {
  const head = joint('head');
  const neck = joint('neck');
  const skin = material('skin');
  const hair = material('hair');
  const at = (x: number, y: number, z: number): Vec => [head[0] + x * s, head[1] + y * s, head[2] + z * s];
  const blob = (a: Vec, b: Vec, mat = skin, blend = 0.03): Shape => ({
    kind: 'ellipsoid',
    a,
    b: b.map((v) => v * s) as unknown as Vec,
    material: mat,
    bone: 'head',
    blend: blend * s,
  });
  const shapes: Shape[] = [
    {
      kind: 'cone',
      a: [neck[0], neck[1] - 0.03 * s, neck[2] - 0.006 * s],
      b: at(0, 0.03, 0),
      radii: [0.058 * s, 0.052 * s],
      material: skin,
      bone: 'neck',
      blend: 0.03 * s,
    },
    blob(at(0, 0.098, 0), [0.074, 0.085, 0.092]),
    blob(at(0, 0.03, 0.034), [0.058, 0.076, 0.056]),
    blob(at(0, -0.026, 0.066), [0.026, 0.022, 0.022], skin, 0.035),
    {
      kind: 'cone',
      a: at(0, 0.072, 0.094),
      b: at(0, 0.04, 0.112),
      radii: [0.008 * s, 0.0135 * s],
      material: skin,
      bone: 'head',
      blend: 0.016 * s,
    },
    blob(at(0.012, 0.036, 0.102), [0.009, 0.008, 0.01], skin, 0.012),
    blob(at(-0.012, 0.036, 0.102), [0.009, 0.008, 0.01], skin, 0.012),
    blob(at(0, 0.094, 0.08), [0.052, 0.013, 0.016], skin, 0.025),
    blob(at(0.036, 0.044, 0.066), [0.026, 0.026, 0.022], skin, 0.03),
    blob(at(-0.036, 0.044, 0.066), [0.026, 0.026, 0.022], skin, 0.03),
    blob(at(0, 0.006, 0.086), [0.025, 0.011, 0.013], skin, 0.016),
    blob(at(0.077, 0.056, -0.004), [0.01, 0.031, 0.019], skin, 0.01),
    blob(at(-0.077, 0.056, -0.004), [0.01, 0.031, 0.019], skin, 0.01),
    blob(at(0, 0.088, -0.022), [0.081, 0.088, 0.084], hair, 0.008),
    blob(at(0, 0.05, -0.05), [0.07, 0.06, 0.055], hair, 0.02),
  ];
  if (performer.look.cap) {
    const cap = material('cap');
    shapes.push(
      blob(at(0, 0.128, -0.004), [0.088, 0.07, 0.1], cap, 0.008),
      blob(at(0, 0.13, -0.002), [0.094, 0.02, 0.104], cap, 0.012),
      blob(at(0, 0.2, -0.012), [0.02, 0.02, 0.02], cap, 0.008),
    );
  } else {
    shapes.push(
      // A sculpted face has a forehead that can wrinkle.
      blob(performer.head === 'sculpted' ? at(0, 0.14, -0.006) : at(0, 0.132, 0.018), [0.078, 0.06, 0.082], hair, 0.01),
      blob(at(0, 0.13, -0.098), [0.042, 0.04, 0.04], hair, 0.014),
    );
  }
  return shapes;
}
