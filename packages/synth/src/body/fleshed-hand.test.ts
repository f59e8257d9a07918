import { jointIndex, restPositions } from '@merry-shadow/core/motion/skeleton';
import { BUILDS, Performer } from '../choreography/script';
import { bodySkeleton } from '../choreography/figure-skeleton';
import { BODY_BUILDERS } from './builders';
import { fleshedHand } from './fleshed-hand';
import { narrowWrists } from './narrow-wrists';

const performer = (body: Partial<Performer['body']> = {}, skin = '#402719'): Performer =>
  Performer.parse({ hand: 'fleshed', body: { height: 1.75, ...body }, look: { skin } });

const handOf = (of: Performer, side: 'left' | 'right' = 'left') => {
  const skeleton = bodySkeleton(of.body);
  return { skeleton, part: fleshedHand(side, of, skeleton) };
};

/** Least and most of a surface along an axis. */
function reach(positions: Float32Array, axis: number): [number, number] {
  const values = positions.filter((_, i) => i % 3 === axis);
  return [values.reduce((a, b) => Math.min(a, b)), values.reduce((a, b) => Math.max(a, b))];
}

describe('a hand with flesh', () => {
  const { skeleton, part } = handOf(performer());
  const { positions, tint = new Float32Array(), normals, materials } = part.surface;
  const rest = restPositions(skeleton);
  const place = (joint: string, axis: number): number => rest[jointIndex(skeleton, joint) * 3 + axis];

  it('is as long, broad and thick as a hand', () => {
    const [, far] = reach(positions, 0);
    expect(far - place('leftHand', 0)).toBeGreaterThan(0.17);
    expect(far - place('leftHand', 0)).toBeLessThan(0.22);
    const [low, high] = reach(positions, 1);
    expect(high - low).toBeGreaterThan(0.03);
    expect(high - low).toBeLessThan(0.065);
    const [back, ahead] = reach(positions, 2);
    expect(ahead - back).toBeGreaterThan(0.1);
    expect(ahead - back).toBeLessThan(0.18);
  });

  it('moves each place with few bones whose shares are one, and fingers apart from each other', () => {
    const wrong = Array.from(materials.keys()).filter((v) => {
      const shares = part.binding?.(v) ?? [];
      const sum = shares.reduce((total, [, weight]) => total + weight, 0);
      return shares.length === 0 || shares.length > 4 || Math.abs(sum - 1) > 1e-6 || shares.some(([, w]) => w < -1e-9);
    });
    expect(wrong).toEqual([]);
    const [index, middle] = ['leftIndexDistal', 'leftMiddleDistal'].map((bone) => jointIndex(skeleton, bone));
    const bones = Array.from(materials.keys(), (v) => (part.binding?.(v) ?? []).map(([bone]) => bone));
    expect(bones.some((own) => own.includes(index))).toBe(true);
    expect(bones.some((own) => own.includes(index) && own.includes(middle))).toBe(false);
    // The end of a finger moves with its last bone alone.
    const [, end] = reach(positions, 0);
    const tips = Array.from(materials.keys()).filter((v) => positions[v * 3] > end - 0.004);
    expect(tips.length).toBeGreaterThan(3);
    for (const v of tips) expect(part.binding?.(v)).toEqual([[middle, 1]]);
  });

  it('looks outwards', () => {
    const below = Array.from(materials.keys()).filter((v) => normals[v * 3 + 1] < -0.9);
    const above = Array.from(materials.keys()).filter((v) => normals[v * 3 + 1] > 0.9);
    const height = (list: number[]): number =>
      list.reduce((sum, v) => sum + positions[v * 3 + 1] - place('leftHand', 1), 0) / list.length;
    expect(height(below)).toBeLessThan(-0.004);
    expect(height(above)).toBeGreaterThan(0.004);
  });

  it('is paler inside where the skin is dark, and hardly where it is not', () => {
    const mean = (values: ArrayLike<number>, down: boolean, of: Float32Array): number => {
      const list = Array.from(materials.keys()).filter((v) => (down ? of[v * 3 + 1] < -0.8 : of[v * 3 + 1] > 0.8));
      return list.reduce((sum, v) => sum + values[v * 3], 0) / list.length;
    };
    expect(mean(tint, true, normals)).toBeGreaterThan(1.5 * mean(tint, false, normals));
    const pale = handOf(performer({}, '#f0cdb4')).part.surface;
    const inside = mean(pale.tint ?? [], true, pale.normals);
    expect(inside).toBeLessThan(1.15 * mean(pale.tint ?? [], false, pale.normals));
    expect(Math.min(...tint)).toBeGreaterThan(0.3);
  });

  it('is the other one mirrored', () => {
    const right = handOf(performer(), 'right').part.surface;
    expect(reach(right.positions, 0)[0]).toBeCloseTo(-reach(positions, 0)[1], 3);
    expect(reach(right.positions, 2)[1]).toBeCloseTo(reach(positions, 2)[1], 2);
  });

  it('grows with what is asked for', () => {
    const thick = handOf(performer({ fingerGirth: 1.4 })).part.surface.positions;
    const long = handOf(performer({ fingers: 1.2 })).part.surface.positions;
    expect(reach(thick, 0)[1]).toBeCloseTo(reach(positions, 0)[1], 2);
    expect(reach(thick, 2)[1]).toBeGreaterThan(reach(positions, 2)[1]);
    expect(reach(long, 0)[1]).toBeGreaterThan(reach(positions, 0)[1] + 0.012);
  });
});

it.each(BUILDS)('forearms of a %s body go over into the wrist', (build) => {
  const of = Performer.parse({ build, body: { girth: 1.2 } });
  const skeleton = bodySkeleton(of.body);
  const rest = restPositions(skeleton);
  const [elbow, wrist] = ['leftLowerArm', 'leftHand'].map((joint) => jointIndex(skeleton, joint) * 3);
  const thick = (
    { surface, bone }: ReturnType<(typeof BODY_BUILDERS)['blended']['build']>['body'],
    at: number,
  ): number => {
    const { positions, owners } = surface;
    const heights = Array.from(owners.keys())
      .filter((v) => bone(owners[v]) === 'leftLowerArm')
      .filter((v) => Math.abs((positions[v * 3] - rest[elbow]) / (rest[wrist] - rest[elbow]) - at) < 0.1)
      .map((v) => Math.abs(positions[v * 3 + 1] - rest[elbow + 1]));
    return Math.max(...heights);
  };
  const { body } = BODY_BUILDERS[build].build(of, skeleton);
  const [upper, end] = [thick(body, 0.3), thick(body, 0.88)];
  narrowWrists(body, of, skeleton);
  expect(thick(body, 0.3)).toBeCloseTo(upper, 6);
  expect(thick(body, 0.88)).toBeLessThan(end);
  expect(thick(body, 0.88)).toBeGreaterThan(0.012);
  expect(thick(body, 0.88)).toBeLessThan(0.03);
});
