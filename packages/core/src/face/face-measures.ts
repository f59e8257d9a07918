import { FACE_MARK_COUNT, LEFT_IRIS, RIGHT_IRIS } from '../observe/face';
import type { HeadSpace } from './head-space';

/** Marks of the performer's right side and their mirror images on the left, and marks of the middle. */
const PAIRS = {
  eyeUpper: [
    [159, 160, 158],
    [386, 387, 385],
  ],
  eyeLower: [
    [145, 144, 153],
    [374, 373, 380],
  ],
  eyeOuter: [[33], [263]],
  eyeInner: [[133], [362]],
  iris: [[RIGHT_IRIS], [LEFT_IRIS]],
  browInner: [
    [107, 55, 66],
    [336, 285, 296],
  ],
  browMiddle: [
    [105, 65, 52],
    [334, 295, 282],
  ],
  browOuter: [
    [70, 63, 46, 53],
    [300, 293, 276, 283],
  ],
  corner: [
    [61, 76, 62, 78],
    [291, 306, 292, 308],
  ],
  lipUpper: [
    [39, 82, 81],
    [269, 312, 311],
  ],
  lipLower: [
    [181, 87, 178],
    [405, 317, 402],
  ],
  cheek: [
    [50, 205],
    [280, 425],
  ],
  wing: [
    [98, 64],
    [327, 294],
  ],
} as const;
const MIDDLES = {
  upper: [0, 37, 267, 11],
  upperInner: [13, 82, 312],
  lower: [17, 84, 314, 16],
  lowerInner: [14, 87, 317],
  chin: [152, 148, 377, 175],
  chinFront: [199, 200],
} as const;

type Pair = keyof typeof PAIRS;
type Middle = keyof typeof MIDDLES;
type Place = [number, number, number];

/**
 * Names of what is measured of a face in the head's axes: heights of brows, opening of lids, corners and lips of
 * the mouth, the chin, the irises, and how the head is turned against the view. Each side has its own, the performer's right first; `mirrorMeasures` changes them over.
 */
const SIDED = [
  'open',
  'irisX',
  'irisY',
  'browInner',
  'browInnerX',
  'browMiddle',
  'browOuter',
  'cornerX',
  'cornerY',
  'cornerZ',
  'lipUpper',
  'lipLower',
  'cheekX',
  'cheekY',
  'cheekZ',
  'wing',
] as const;
const UNSIDED = [
  'lipsX',
  'upperY',
  'upperZ',
  'upperInnerY',
  'lowerY',
  'lowerZ',
  'lowerInnerY',
  'gap',
  'chinX',
  'chinY',
  'chinZ',
  'chinFrontY',
  'chinFrontZ',
] as const;
const VIEW = ['yaw', 'turned', 'pitch', 'tipped'] as const;
export const FACE_MEASURES: readonly string[] = [
  ...SIDED.flatMap((name) => [`right.${name}`, `left.${name}`]),
  ...UNSIDED,
  ...VIEW,
];
/** Measures that change their sign in a mirror. */
const TURNED_OVER = new Set(['lipsX', 'chinX', 'yaw']);

/** The measures of a mirrored face: sides change places, what goes to a side goes to the other. */
export function mirrorMeasures(measures: ArrayLike<number>): number[] {
  return FACE_MEASURES.map((name, i) => {
    if (name.startsWith('right.')) return measures[i + 1];
    if (name.startsWith('left.')) return measures[i - 1];
    return TURNED_OVER.has(name) ? -measures[i] : measures[i];
  });
}

/**
 * Measures a face in a frame, in lengths between the outer corners of the eyes; sideways ones are counted outwards on each side.
 * @returns one for each of `FACE_MEASURES`; NaN where no face was seen.
 */
export function measureFace({ marks, view }: HeadSpace, frame: number): number[] {
  const mean = (list: readonly number[]): Place => {
    const sum: Place = [0, 0, 0];
    for (const mark of list)
      for (let k = 0; k < 3; k++) sum[k] += marks[(frame * FACE_MARK_COUNT + mark) * 3 + k] / list.length;
    return sum;
  };
  const middle = (name: Middle): Place => mean(MIDDLES[name]);
  const sides = ([0, 1] as const).map((side) => {
    const out = side === 0 ? -1 : 1;
    const place = (name: Pair): Place => mean(PAIRS[name][side]);
    const [outer, inner, iris, corner, cheek] = (['eyeOuter', 'eyeInner', 'iris', 'corner', 'cheek'] as const).map(
      place,
    );
    const width = Math.hypot(...outer.map((value, k) => value - inner[k]));
    const eyeY = (outer[1] + inner[1]) / 2;
    // Lids are measured mark by mark, so that the head's tilt does not count.
    const lids = PAIRS.eyeUpper[side].reduce((sum, mark, i) => {
      const [a, b] = [mean([mark]), mean([PAIRS.eyeLower[side][i]])];
      return sum + Math.hypot(...a.map((value, k) => value - b[k])) / 3;
    }, 0);
    return [
      lids / width,
      (out * (iris[0] - (outer[0] + inner[0]) / 2)) / width,
      (iris[1] - eyeY) / width,
      place('browInner')[1] - eyeY,
      out * place('browInner')[0],
      place('browMiddle')[1] - eyeY,
      place('browOuter')[1] - eyeY,
      out * corner[0],
      corner[1],
      corner[2],
      place('lipUpper')[1],
      place('lipLower')[1],
      out * cheek[0],
      cheek[1],
      cheek[2],
      place('wing')[1],
    ];
  });
  const [upper, upperInner, lower, lowerInner, chin, chinFront] = (
    ['upper', 'upperInner', 'lower', 'lowerInner', 'chin', 'chinFront'] as const
  ).map(middle);
  const gap = Math.hypot(...upperInner.map((value, k) => value - lowerInner[k]));
  const [yaw, pitch] = [view[frame * 2], view[frame * 2 + 1]];
  return [
    ...sides[0].flatMap((value, i) => [value, sides[1][i]]),
    (upper[0] + lower[0]) / 2,
    upper[1],
    upper[2],
    upperInner[1],
    lower[1],
    lower[2],
    lowerInner[1],
    gap,
    chin[0],
    chin[1],
    chin[2],
    chinFront[1],
    chinFront[2],
    Math.sin(yaw),
    1 - Math.cos(yaw),
    Math.sin(pitch),
    1 - Math.cos(pitch),
  ];
}
