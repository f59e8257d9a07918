import { vec3 } from 'gl-matrix';
import { fingerBones, type Finger, type Side } from '@merry-shadow/core/motion/humanoid';
import { jointIndex, type Skeleton } from '@merry-shadow/core/motion/skeleton';
import { smoothStep } from '@merry-shadow/core/motion/turns-from-axes';
import { fingerTint } from './hand-tint';
import { material } from './materials';
import type { Binding } from './part';
import { mix, plus } from './rest-joints';
import { closedSurface, rowsJoined, type Surface } from './surface';
import type { Vec } from './shapes';

/** Half widths of fingers against the index finger's. */
const THICK: Record<Finger, number> = { Thumb: 1.24, Index: 1, Middle: 1.03, Ring: 0.97, Little: 0.85 };
/** Half width of an index finger of a body of 1.75 m, metres. */
const HALF = 0.0091;

/** A finger's section: place along its bones (0 the knuckle, 3 the tip), half width, height to the back and to the palm, in half widths. */
type Section = readonly [along: number, half: number, back: number, palm: number];
const SECTIONS: readonly Section[] = [
  [-0.3, 0.8, 0.6, 0.7],
  [0, 1, 1.12, 1],
  [0.3, 1.03, 0.98, 1.12],
  [0.62, 0.99, 0.92, 1.1],
  [0.86, 1.02, 0.97, 0.95],
  [1, 1.06, 1.04, 0.84],
  [1.15, 1.02, 0.95, 0.96],
  [1.5, 0.96, 0.86, 1.03],
  [1.84, 0.94, 0.84, 0.85],
  [2, 0.95, 0.86, 0.76],
  [2.2, 0.92, 0.78, 0.9],
  [2.55, 0.88, 0.7, 0.92],
  [2.8, 0.8, 0.62, 0.84],
  [3, 0.7, 0.5, 0.72],
];
/** From where the tip rounds off. */
const TIP = 2.62;
const COLUMNS = 26;
const ROWS_A_BONE = 20;

/** A finger at rest: its bones and the directions that its sections are laid in. */
export interface Chain {
  finger: Finger;
  bones: readonly [string, string, string];
  /** Its three joints and its tip. */
  points: readonly Vec[];
  /** To the back of the finger, and across. */
  back: vec3;
  across: vec3;
  half: number;
}

/** The bones of a finger, and which way it lies. @param s metres for a hand of a body of 1.75 m, times the girth of the fingers. */
export function chainOf(
  finger: Finger,
  side: Side,
  joint: (name: string) => Vec,
  skeleton: Skeleton,
  s: number,
): Chain {
  const bones = fingerBones(finger).map((bone) => side + finger + bone) as unknown as Chain['bones'];
  const points = bones.map(joint);
  const tip = skeleton.joints[jointIndex(skeleton, bones[2])].tip ?? [0, 0, 0];
  points.push(plus(points[2], ...(tip as [number, number, number])));
  const ahead = vec3.subtract([0, 0, 0], points[2], points[0]);
  // Fingers bend down; the thumb bends sideways, towards the fingers.
  const towardsPalm: vec3 =
    finger === 'Thumb' ? vec3.cross([0, 0, 0], [0, side === 'left' ? 1 : -1, 0], ahead) : [0, -1, 0];
  const crossed = (u: vec3, v: vec3): vec3 => vec3.normalize([0, 0, 0], vec3.cross([0, 0, 0], u, v));
  const across = crossed(ahead, towardsPalm);
  return { finger, bones, points, across, back: crossed(ahead, across), half: HALF * THICK[finger] * s };
}

/** Half width and heights of a section between those of the table. */
function sectionAt(along: number): number[] {
  const next = Math.max(
    1,
    SECTIONS.findIndex(([at]) => at >= along),
  );
  const [a, b] = [SECTIONS[next - 1], SECTIONS[next]];
  const t = smoothStep(a[0], b[0], along);
  return [1, 2, 3].map((i) => a[i] + (b[i] - a[i]) * t);
}

/** The point of a chain at a place along it. */
export function pointAt({ points }: Chain, along: number): Vec {
  const i = Math.min(2, Math.max(0, Math.floor(along)));
  return mix(points[i], points[i + 1], along - i);
}

/** A finger as a tube through its sections, denser at its joints. */
export function fingerTube(chain: Chain, skin: string): { surface: Surface; along: number[] } {
  const rows = [-0.3, -0.15];
  for (let i = 0; i < 3 * ROWS_A_BONE; i++) {
    const t = (i % ROWS_A_BONE) / ROWS_A_BONE;
    rows.push(Math.floor(i / ROWS_A_BONE) + (1 - Math.cos(Math.PI * t)) / 2);
  }
  rows.push(2.9975);
  const positions: number[] = [];
  const along: number[] = [];
  const tint: number[] = [];
  const openness: number[] = [];
  for (const at of rows) {
    const [half, back, palm] = sectionAt(at);
    const rounded = at > TIP ? Math.sqrt(1 - ((at - TIP) / (3 - TIP)) ** 2) : 1;
    const middle = pointAt(chain, at);
    for (let c = 0; c < COLUMNS; c++) {
      const angle = (c / COLUMNS) * 2 * Math.PI;
      const up = Math.cos(angle);
      const high = (up > 0 ? back : palm) * up * chain.half * rounded;
      const wide = half * Math.sin(angle) * chain.half * rounded;
      for (let i = 0; i < 3; i++) positions.push(middle[i] + chain.back[i] * high + chain.across[i] * wide);
      along.push(at);
      tint.push(...fingerTint(at, angle, chain.finger === 'Thumb', skin));
      openness.push(1 - 0.45 * Math.sin(angle) ** 4 * Math.min(1, Math.max(0, (2.9 - at) / 0.8)));
    }
  }
  const caps = [0, (rows.length - 1) * COLUMNS].flatMap((first, end) => {
    const fan: number[] = [];
    for (let c = 1; c + 1 < COLUMNS; c++) fan.push(first, first + (end ? c : c + 1), first + (end ? c + 1 : c));
    return fan;
  });
  const triangles = [...rowsJoined(rows.length, COLUMNS), ...caps];
  const surface = closedSurface(
    Float32Array.from(positions),
    triangles,
    along.map(() => material('skin')),
    along.map(() => 0),
    1,
  );
  return { surface: { ...surface, tint: Float32Array.from(tint), openness: Float32Array.from(openness) }, along };
}

/** A finger's tube bends within a short way about each joint. */
export function tubeBinding(
  along: number,
  { bones, points }: Chain,
  number: (bone: string) => number,
  side: Side,
): Binding {
  const chain = [`${side}Hand`, ...bones].map(number);
  const j = Math.min(2, Math.max(0, Math.round(along)));
  const bone = vec3.distance(points[j + 1], points[j]);
  const share = smoothStep(0, 1, ((along - j) * bone) / (j === 0 ? 0.018 : 0.011) + 0.5);
  return share <= 0
    ? [[chain[j], 1]]
    : share >= 1
      ? [[chain[j + 1], 1]]
      : [
          [chain[j + 1], share],
          [chain[j], 1 - share],
        ];
}
