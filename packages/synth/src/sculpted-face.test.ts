import { jointIndex, restPositions } from '@merry-shadow/core/motion/skeleton';
import { bodySkeleton } from './choreography/figure-skeleton';
import { Look, Performer, type FaceFeatures } from './choreography/script';
import { sculptedHead } from './body/sculpted-head';
import { EYE, MOUTH, BROW } from './face/face-fields';
import { faceClip } from './population/face-clips';
import { SculptedPaint } from './render/sculpted-paint';

const headOf = (face: Partial<FaceFeatures> = {}) => {
  const performer = Performer.parse({ head: 'sculpted', body: { height: 1.75 }, look: { face, cap: null } });
  const skeleton = bodySkeleton(performer.body);
  const { surface } = sculptedHead(performer, skeleton);
  const head = Array.from(
    restPositions(skeleton)
      .subarray(jointIndex(skeleton, 'head') * 3)
      .slice(0, 3),
  );
  return { surface, head };
};

/** How far a head stands out at a place of its face. */
function depth({ surface: { positions }, head }: ReturnType<typeof headOf>, x: number, y: number): number {
  let most = -Infinity;
  for (let v = 0; v < positions.length; v += 3)
    if (Math.hypot(positions[v] - head[0] - x, positions[v + 1] - head[1] - y) < 0.003)
      most = Math.max(most, positions[v + 2] - head[2]);
  return most;
}

describe('a sculpted head', () => {
  const plain = headOf();

  it('has a nose before the eyes, eyes in sockets, and lips before the groove below them', () => {
    expect(depth(plain, 0, 0.042)).toBeGreaterThan(depth(plain, EYE.x, EYE.y) + 0.02);
    expect(depth(plain, EYE.x, EYE.y)).toBeGreaterThan(depth(plain, 0.016, EYE.y) - 0.004);
    expect(depth(plain, 0.03, BROW.y)).toBeGreaterThan(depth(plain, EYE.x, EYE.y));
    expect(depth(plain, 0, MOUTH.y - 0.005)).toBeGreaterThan(depth(plain, 0, MOUTH.y - 0.0155));
  });

  it('differs by what is asked for', () => {
    expect(depth(headOf({ nose: 1.5 }), 0, 0.042)).toBeGreaterThan(depth(headOf({ nose: 0.6 }), 0, 0.042) + 0.005);
    const wide = ({ surface: { positions }, head }: typeof plain): number =>
      positions.reduce(
        (most, x, i) =>
          i % 3 === 0 && Math.abs(positions[i + 1] - head[1]) < 0.004 && positions[i + 2] > head[2]
            ? Math.max(most, Math.abs(x))
            : most,
        0,
      );
    expect(wide(headOf({ jaw: 1.2 }))).toBeGreaterThan(wide(headOf({ jaw: 0.85 })) + 0.005);
  });
});

describe('the paint of a sculpted face', () => {
  const look = Look.parse({ skin: '#e2b08f', hair: '#1d1512' });
  const painted = (paint: SculptedPaint, x: number, y: number): number => {
    const colour = Float64Array.of(0.6, 0.45, 0.35);
    paint.paint(x, y, 0.09, colour);
    return colour[0] + colour[1] + colour[2];
  };
  const showing = (made: Parameters<SculptedPaint['show']>[0], across = 0, up = 0): SculptedPaint => {
    const paint = new SculptedPaint(look);
    paint.show(made, across, up);
    return paint;
  };
  const still = showing({});

  it('closes the lids of the eye that blinks, downwards', () => {
    const closed = showing({ eyeBlinkLeft: 1 });
    const white: [number, number] = [EYE.x + 0.009, EYE.y];
    expect(painted(closed, ...white)).not.toBeCloseTo(painted(still, ...white), 2);
    expect(painted(closed, -white[0], white[1])).toBe(painted(still, -white[0], white[1]));
    // The pupil is gone, and lashes lie below.
    expect(painted(closed, EYE.x, EYE.y)).toBeGreaterThan(painted(still, EYE.x, EYE.y) + 0.5);
    expect(painted(closed, EYE.x, EYE.y - 0.0042)).toBeLessThan(painted(closed, EYE.x, EYE.y) - 0.3);
  });

  it('moves the irises with the gaze', () => {
    const aside = showing({}, 0.4, 0);
    expect(painted(aside, EYE.x - 0.004, EYE.y)).toBeGreaterThan(painted(still, EYE.x - 0.004, EYE.y));
    // To the performer's left: away from the nose in the left eye, towards it in the right one.
    expect(painted(aside, -EYE.x + 0.0045, EYE.y)).toBeLessThan(painted(still, -EYE.x + 0.0075, EYE.y));
  });

  it('wrinkles with the brows and folds with a smile, on its own side', () => {
    const forehead: [number, number] = [0.02, BROW.y + 0.0135];
    expect(painted(showing({ browInnerUp: 1 }), ...forehead)).toBeLessThan(painted(still, ...forehead) - 0.02);
    const frown: [number, number] = [0.0062, BROW.y];
    expect(painted(showing({ browDownLeft: 1 }), ...frown)).toBeLessThan(painted(still, ...frown) - 0.05);
    expect(painted(showing({ browDownLeft: 1 }), -frown[0], frown[1])).toBe(painted(still, -frown[0], frown[1]));
    const fold: [number, number] = [0.0245, 0.02];
    expect(painted(showing({ mouthSmileLeft: 1 }), ...fold)).toBeLessThan(painted(still, ...fold) - 0.05);
  });

  it('shows the inside of an open mouth, less wide when it is rounded', () => {
    const open = showing({ jawOpen: 1 });
    expect(painted(open, 0, MOUTH.y - 0.0034)).not.toBeCloseTo(painted(still, 0, MOUTH.y - 0.0034), 1);
    const aside: [number, number] = [0.8 * MOUTH.half, MOUTH.y - 0.0015];
    expect(painted(showing({ jawOpen: 1, mouthFunnel: 1 }), ...aside)).toBeGreaterThan(painted(open, ...aside));
  });

  it('leaves what is no face alone', () => {
    const colour = Float64Array.of(0.6, 0.45, 0.35);
    showing({ browInnerUp: 1 }).paint(0, 0.06, -0.05, colour);
    expect([...colour]).toEqual([0.6, 0.45, 0.35]);
  });
});

it('faces are sculpted in four of five clips', () => {
  const heads = [0, 1, 2, 3, 4, 5].map((index) => faceClip(9, index).performers[0].head);
  expect(heads).toEqual(['sculpted', 'sculpted', 'sculpted', 'sculpted', 'built', 'sculpted']);
  expect(faceClip(9, 0).performers[0].look.face).not.toEqual(faceClip(9, 1).performers[0].look.face);
});
