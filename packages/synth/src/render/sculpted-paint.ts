import type { FaceShape } from '@merry-shadow/core/face/face-shapes';
import { linear } from '../body/materials';
import type { FaceStrengths } from '../body/skin';
import type { Performer } from '../choreography/script';
import { BROW, EYE, MOUTH } from '../face/face-fields';
import { smoothStep } from '@merry-shadow/core/motion/turns-from-axes';
import { bell } from '../soft-forms';
import { blend, inside, type FacePaint } from './face-paint';

const DARK = linear('#1a0f0c');
const BALL = linear('#cfc6bd');
const CORNER = linear('#b98a80');
const TONGUE = linear('#6a2623');
const TEETH = linear('#ddd5c6');

/** Lids above and below the middle of an eye at rest, metres. */
const UPPER = 0.0057;
const LOWER = 0.0045;
const IRIS = 0.0058;
/** How far behind the lids the eyeball turns, metres. */
const EYEBALL = 0.0115;

/** Lids of an eye in a frame: heights of their edges, and how strongly its side smiles, squints, and raises and lowers its brow. */
interface Half {
  upper: number;
  lower: number;
  smile: number;
  squint: number;
  raised: number;
  lowered: number;
}

/** A sculpted face: almond eyes with lids that close downwards, lashes, folds, brows of hair, wrinkles that come with what the face does, lips. */
export class SculptedPaint implements FacePaint {
  private readonly skin;
  private readonly hair;
  private readonly iris;
  private readonly features;
  private readonly halves: [Half, Half] = [half(), half()];
  private inner = 0;
  private look: [number, number] = [0, 0];
  private mouth = 0;
  private rounded = 0;

  constructor({ face, skin, hair }: Performer['look']) {
    this.features = face;
    this.skin = linear(skin);
    this.hair = linear(hair).map((value) => value * 0.7);
    this.iris = linear(face.iris);
  }

  show(made: FaceStrengths, across: number, up: number): void {
    const of = (shape: FaceShape): number => made[shape] ?? 0;
    const { lids } = this.features;
    (['Left', 'Right'] as const).forEach((side, i) => {
      const at = this.halves[i];
      const blink = of(`eyeBlink${side}`);
      const wide = of(`eyeWide${side}`);
      at.squint = of(`eyeSquint${side}`);
      at.smile = of(`mouthSmile${side}`);
      at.raised = of(`browOuterUp${side}`);
      at.lowered = of(`browDown${side}`);
      at.lower = -LOWER * lids * (1 + 0.2 * wide - 0.55 * at.squint - 0.15 * at.smile);
      const open = UPPER * lids * (1 + 0.4 * wide - 0.15 * at.squint) + up * 0.0035;
      at.upper = open + (at.lower * 0.92 - open) * blink;
    });
    this.inner = of('browInnerUp');
    this.look = [EYEBALL * Math.sin(across), EYEBALL * Math.sin(up)];
    this.rounded = Math.max(of('mouthFunnel'), of('mouthPucker'));
    const apart = [
      of('mouthFunnel'),
      ...(['mouthUpperUp', 'mouthLowerDown'] as const).flatMap((name) => [of(`${name}Left`), of(`${name}Right`)]),
    ];
    this.mouth = Math.max(of('jawOpen'), ...apart.map((value) => 0.4 * value));
  }

  paint(x: number, y: number, z: number, colour: Float64Array): void {
    if (z < 0.03 || y < -0.05 || y > 0.135) return;
    const side = this.halves[x >= 0 ? 0 : 1];
    const ax = Math.abs(x);
    const { skin } = this;
    // Warm cheeks and nose.
    const warm =
      0.35 * bell(Math.hypot(ax - 0.042, y - 0.034), 0.02) + 0.25 * bell(Math.hypot(ax, (y - 0.04) * 0.8), 0.011);
    blend(colour, [skin[0] * 0.97, skin[1] * 0.68, skin[2] * 0.62], warm);
    this.paintBrow(ax, y, side, colour);
    // Nostrils and the fold about the wings of the nose.
    blend(colour, DARK, 0.8 * inside(Math.hypot((ax - 0.0068) * 0.8, (y - 0.0298) * 1.7) - 0.0026, 0.0025));
    if (ax > 0.013 && y < 0.044 && y > 0.026)
      darken(colour, bell(Math.hypot(ax - 0.0095, y - 0.0355) - 0.0085, 0.0014), 0.35);
    // From there to beside the mouth; deeper in a smile.
    if (y > -0.002 && y < 0.036)
      darken(
        colour,
        bell(ax - (0.0165 + (0.036 - y) * 0.5), 0.0024) * smoothStep(0, 1, (y + 0.002) / 0.01),
        0.1 + 0.4 * side.smile,
      );
    this.paintMouth(ax, y, colour);
    this.paintEye(ax, y, Math.sign(x) || 1, side, colour);
  }

  private paintBrow(ax: number, y: number, side: Half, colour: Float64Array): void {
    const line = BROW.y + 0.004 * this.features.brows;
    const up = y - (line + 0.001 - (ax - 0.034) ** 2 * 7);
    if (ax > 0.009 && ax < 0.058 && Math.abs(up) < 0.008) {
      const thick = 0.0041 - 0.0024 * smoothStep(0, 1, (ax - 0.022) / 0.032);
      const strands = 0.86 + 0.14 * Math.sin(ax * 2900 + up * 1500 * (ax < 0.02 ? -1 : 1));
      const ends = smoothStep(0, 1, (ax - 0.011) / 0.005) * smoothStep(0, 1, (0.056 - ax) / 0.008);
      blend(colour, this.hair, 0.9 * strands * ends * inside(Math.abs(up) - thick, 0.0026));
    }
    // Wrinkles of the forehead come with raised brows, those between the brows with lowered ones.
    const raised = Math.max(
      this.inner * smoothStep(0, 1, (0.036 - ax) / 0.016),
      side.raised * smoothStep(0, 1, (ax - 0.012) / 0.014),
    );
    if (raised > 0 && y > line + 0.008)
      darken(
        colour,
        [0.0135, 0.0215, 0.029].reduce((sum, at) => sum + bell(y - line - at + 1.2 * (ax - 0.02) ** 2, 0.0013), 0),
        0.4 * raised * smoothStep(0, 1, (0.052 - ax) / 0.012),
      );
    if (side.lowered > 0) darken(colour, bell(ax - 0.0062, 0.0014) * bell(y - line + 0.002, 0.009), 0.5 * side.lowered);
  }

  private paintMouth(ax: number, y: number, colour: Float64Array): void {
    const { skin, mouth } = this;
    const my = y - MOUTH.y;
    const across = ax / (MOUTH.half * this.features.mouth);
    if (across > 1.2 || Math.abs(my) > 0.02) return;
    const round = Math.max(0, 1 - across * across);
    const upper = 0.0066 * this.features.lips * round ** 0.75 * (1 - 0.24 * bell(ax, 0.0055));
    const lower = -0.0088 * this.features.lips * Math.sqrt(round);
    const tone = my > -0.0004 ? 0.82 : 1;
    blend(
      colour,
      [skin[0] * 0.78 * tone, skin[1] * 0.44 * tone, skin[2] * 0.45 * tone],
      0.85 * inside(Math.max(my - upper, lower - my), 0.0022),
    );
    darken(colour, bell(Math.hypot(across * 0.0255 - 0.0252, my), 0.0022), 0.45);
    // The lips part, least at the corners of the mouth, and in a rounded mouth in its middle alone.
    const open = mouth > 0.02;
    const wide = 0.96 - 0.3 * this.rounded;
    if (across >= wide) return;
    const part = open ? (1 - (across / wide) ** 4) ** 0.5 : 1;
    const gap = (open ? 0.0036 : 0.0005) * part;
    const hole = Math.max(my - (open ? 0.0012 : 0.0003) * part, -gap - my);
    blend(colour, DARK, (open ? 0.95 : 0.8) * inside(hole, 0.001));
    if (mouth <= 0.15 || hole > 0) return;
    blend(
      colour,
      TEETH,
      0.85 * inside(Math.max(my - 0.0012, 0.0002 - my), 0.0007) * smoothStep(0, 1, (0.8 - across) / 0.15),
    );
    blend(
      colour,
      TONGUE,
      0.8 * inside(Math.max(my + 0.0021, -gap - my), 0.0008) * smoothStep(0, 1, (0.7 - across) / 0.2),
    );
  }

  private paintEye(ax: number, y: number, sign: number, side: Half, colour: Float64Array): void {
    const { apart, eyes, lids } = this.features;
    const width = EYE.half * eyes;
    const ex = ax - EYE.x * apart;
    const t = ex / width;
    const base = 0.0007 * t;
    const ey = y - EYE.y - base;
    if (Math.abs(t) > 1.3 || ey > 0.016 || ey < -0.016) return;
    const round = Math.max(0, 1 - Math.abs(t) ** 2.2);
    const [over, under] = [side.upper * round, side.lower * round];
    // The fold of the upper lid, and that below the lower one.
    const fold = (UPPER * lids + 0.0037) * Math.max(0, 1 - (t * 0.88) ** 2);
    const lid = smoothStep(0, 1, (UPPER * lids - side.upper) / 0.006);
    darken(colour, bell(ey - fold, 0.0011) * smoothStep(0, 1, (1.15 - Math.abs(t)) / 0.3), 0.42 * (1 - 0.6 * lid));
    if (ey > over && ey < fold) darken(colour, 1, 0.1);
    darken(
      colour,
      bell(ey - under + 0.0048, 0.0013) * smoothStep(0, 1, (1 - Math.abs(t)) / 0.4),
      0.12 + 0.3 * side.squint,
    );
    if (Math.abs(t) > 1.12) return;
    const ball = inside(Math.max(ey - over, under - ey), 0.0009) * (Math.abs(t) < 1 ? 1 : 0);
    if (ball > 0) {
      const shade = 1 - 0.5 * smoothStep(0, 1, (ey - over + 0.0036) / 0.0036);
      blend(colour, [BALL[0] * shade, BALL[1] * shade, BALL[2] * shade], ball);
      blend(colour, CORNER, ball * 0.8 * smoothStep(0, 1, (-0.72 - t) / 0.2));
      const [ix, iy] = [ex - sign * this.look[0], y - EYE.y - this.look[1]];
      const far = Math.hypot(ix, iy);
      const { iris } = this;
      blend(colour, [iris[0] * shade, iris[1] * shade, iris[2] * shade], ball * inside(far - IRIS, 0.0011));
      blend(colour, DARK, 0.55 * ball * bell(far - IRIS + 0.0004, 0.0007));
      blend(colour, DARK, ball * inside(far - 0.0024, 0.0009));
      blend(colour, [0.9, 0.9, 0.9], ball * inside(Math.hypot(sign * ix - 0.0016, iy - 0.002) - 0.0009, 0.0008));
    }
    // Lashes.
    if (Math.abs(t) < 1.04) {
      const thick = 0.0006 + 0.0004 * smoothStep(0, 1, (t + 1) / 2);
      blend(colour, DARK, 0.9 * inside(Math.abs(ey - over - thick * 0.6) - thick, 0.0009));
      blend(colour, DARK, 0.4 * inside(Math.abs(ey - under + 0.0003) - 0.0003, 0.0008));
    }
  }
}

/** Darkens by a share of `by`, red a little less. */
function darken(colour: Float64Array, by: number, share: number): void {
  for (let c = 0; c < 3; c++) colour[c] *= 1 - share * by * (c === 0 ? 0.85 : 1);
}

function half(): Half {
  return { upper: UPPER, lower: -LOWER, smile: 0, squint: 0, raised: 0, lowered: 0 };
}
