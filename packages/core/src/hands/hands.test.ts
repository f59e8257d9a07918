import { quat } from 'gl-matrix';
import { SIDES } from '../motion/humanoid';
import { emptyHandObservations, HAND_MARK_COUNT, type BothHands } from '../observe/hands';
import { fillGaps } from '../signal/fill-gaps';
import { settleColumns } from './calm';
import { exampleHand } from '../../test/example-hand';
import { learnedAngles } from './finger-map';
import { FINGER_ANGLES, HAND_ANGLES, handPoseOf, handTurns, SPREAD } from './finger-turns';
import { handFeatures, type SeenHand } from './hand-features';
import { HAND_SHAPE_NAMES, handShape, nearestShape } from './hand-shapes';
import { wristAngles } from './hand-sights';
import { withoutOthersHands } from './own-hands';
import { angleBetween, likeliestPalms, type PalmSight } from './palm-course';
import { readHand } from './read-hand';

/** What a camera far ahead sees of a hand. */
const seenAhead = (world: Float32Array): SeenHand => ({
  world,
  marks: Float32Array.from({ length: HAND_MARK_COUNT * 2 }, (_, i) =>
    i % 2 === 0 ? 400 * world[(i >> 1) * 3] : -400 * world[(i >> 1) * 3 + 1],
  ),
});
const degrees = (angle: number): number => (angle * Math.PI) / 180;

describe('a hand of known pose', () => {
  it.each(SIDES)('has turns from which its angles are read back: %s', (side) => {
    for (const name of HAND_SHAPE_NAMES) {
      const turns = handTurns(side, handShape(name));
      const read = handPoseOf(side, (bone) => turns.get(bone) as quat);
      handShape(name).forEach((angle, i) => {
        // The first bend of a finger that is spread is told to second order only.
        const first = i % FINGER_ANGLES === 0 || i % FINGER_ANGLES === SPREAD;
        expect(Math.abs(read[i] - angle)).toBeLessThan(first ? 0.25 : 1e-6);
      });
    }
  });

  it.each(SIDES)('shows its turn and its bends in its points: %s', (side) => {
    const turn = quat.fromEuler([0, 0, 0, 1], 30, -50, 80);
    const open = readHand(exampleHand(side, handShape('flat'), turn), 0, side);
    expect(angleBetween(open.turn, turn)).toBeLessThan(degrees(12));
    const fist = readHand(exampleHand(side, handShape('fist'), turn), 0, side);
    const bend = (angles: Float64Array, finger: number): number =>
      [0, 1, 2].reduce((sum, i) => sum + angles[finger * FINGER_ANGLES + i], 0);
    for (const finger of [1, 2, 3, 4]) {
      expect(Math.abs(bend(open.angles, finger))).toBeLessThan(degrees(25));
      expect(bend(fist.angles, finger)).toBeGreaterThan(degrees(190));
    }
  });

  it('looks the same to what is learned wherever and how large it is in the picture, turned there or not', () => {
    const seen = seenAhead(exampleHand('left', handShape('claw')));
    const turned = seen.marks.map((_, i) => 900 + (i % 2 === 0 ? -2 : 2) * seen.marks[i ^ 1]);
    const outline = (marks: Float32Array): number[] =>
      handFeatures({ ...seen, marks }, 0, 'left').slice(-2 * (HAND_MARK_COUNT - 1));
    outline(turned).forEach((value, i) => expect(value).toBeCloseTo(outline(seen.marks)[i], 4));
  });

  it('keeps learned angles within what fingers can do, the same for both hands', () => {
    const [left, right] = SIDES.map((side) => learnedAngles(seenAhead(exampleHand(side, handShape('point'))), 0, side));
    left.forEach((angle, i) => {
      expect(angle).toBeGreaterThan(-0.6);
      expect(angle).toBeLessThan(2);
      expect(angle).toBeCloseTo(right[i], 4);
    });
  });
});

it('a ready shape is the nearest to itself, also when it is made less strongly', () => {
  for (const name of HAND_SHAPE_NAMES) expect(nearestShape(handShape(name))).toEqual({ shape: name, off: 0 });
  expect(nearestShape(handShape('fist').map((angle) => angle * 0.9)).shape).toBe('fist');
});

describe('which way a palm lies', () => {
  const turned = (angle: number): quat => quat.fromEuler([0, 0, 0, 1], 0, angle, 0);
  const wrong = (angle: number): quat => quat.multiply([0, 0, 0, 1], turned(angle), [1, 0, 0, 0]);

  it('is told by what came before and after where a frame by itself is taken the wrong way', () => {
    const frames = Array.from({ length: 30 }, (_, frame): PalmSight[] => {
      const flipped = frame === 12 || frame === 13;
      return [
        { turn: turned(frame * 2), cost: flipped ? 1.5 : 0 },
        { turn: wrong(frame * 2), cost: flipped ? 0 : 1.5 },
      ];
    });
    expect([...likeliestPalms(frames, 30)]).toEqual(Array.from({ length: 30 }, () => 0));
  });

  it('may be another after a long gap', () => {
    const frames = Array.from({ length: 60 }, (_, frame): PalmSight[] => {
      if (frame >= 20 && frame < 40) return [];
      return [
        { turn: turned(0), cost: frame < 20 ? 0 : 2 },
        { turn: wrong(0), cost: frame < 20 ? 2 : 0 },
      ];
    });
    const chosen = likeliestPalms(frames, 30);
    expect([chosen[0], chosen[19], chosen[30], chosen[40], chosen[59]]).toEqual([0, 0, -1, 1, 1]);
  });

  it('is taken apart into twist, bend and what goes aside', () => {
    const twist = quat.setAxisAngle([0, 0, 0, 1], [1, 0, 0], 0.7);
    const bent = quat.setAxisAngle([0, 0, 0, 1], [0, 0, 1], -0.4);
    const angles = wristAngles(quat.multiply([0, 0, 0, 1], twist, bent));
    expect(angles.twist).toBeCloseTo(0.7, 6);
    expect(angles.bent).toBeCloseTo(-0.4, 6);
    expect(angles.aside).toBeCloseTo(0, 6);
  });
});

it("a hand that is seen on the other's place is left out: the one that leapt there", () => {
  const frames = 10;
  const hands: BothHands = { left: emptyHandObservations(frames), right: emptyHandObservations(frames) };
  const put = (side: 'left' | 'right', frame: number, x: number): void => {
    for (let mark = 0; mark < HAND_MARK_COUNT; mark++)
      hands[side].marks.set([x + (mark % 4) * 3, 100 + mark * 4], (frame * HAND_MARK_COUNT + mark) * 2);
    hands[side].presence[frame] = 0.9;
  };
  for (let frame = 0; frame < frames; frame++) {
    put('left', frame, 400);
    put('right', frame, frame < 5 ? 100 : 402);
  }
  const { left, right } = withoutOthersHands(hands);
  expect([...left.presence].every((presence) => presence > 0)).toBe(true);
  expect([...right.presence].map((presence) => presence > 0)).toEqual(Array.from({ length: 10 }, (_, f) => f < 5));
});

describe('calm', () => {
  it('leads over short gaps, and passes over into rest in long ones', () => {
    const columns = Float32Array.from({ length: 90 }, (_, frame) =>
      frame < 10 ? 1 : frame < 16 ? 0 : frame < 30 ? 2 : 0,
    );
    const seen = Float32Array.from({ length: 90 }, (_, frame) => (frame < 10 || (frame >= 16 && frame < 30) ? 1 : 0));
    fillGaps(columns, 1, seen, 30);
    expect(columns[9]).toBe(1);
    expect(columns[12]).toBeGreaterThan(1.2);
    expect(columns[12]).toBeLessThan(1.8);
    expect(columns[31]).toBeGreaterThan(1);
    expect(columns[60]).toBe(0);
    const nothing = Float32Array.of(3, 3, 3);
    fillGaps(nothing, 1, new Float32Array(3), 30);
    expect([...nothing]).toEqual([3, 3, 3]);
  });

  it('takes shake from angles and leaves a fist that closes at once', () => {
    const frames = 60;
    const shaking = Float32Array.from({ length: frames }, (_, frame) => 0.5 + (frame % 2 ? 0.03 : -0.03));
    const calm = settleColumns(shaking, 1, 30).subarray(8, 52);
    expect(Math.max(...calm) - Math.min(...calm)).toBeLessThan(0.01);
    const closing = Float32Array.from({ length: frames }, (_, frame) => Math.min(1.5, Math.max(0, (frame - 28) * 0.4)));
    const kept = settleColumns(closing, 1, 30);
    expect(kept[26]).toBeLessThan(0.2);
    expect(kept[35]).toBeGreaterThan(1.3);
    expect(settleColumns(new Float32Array(HAND_ANGLES), HAND_ANGLES, 30)).toHaveLength(HAND_ANGLES);
  });
});
