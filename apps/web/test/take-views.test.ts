import { quat } from 'gl-matrix';
import { emptyFaceObservations, FACE_MARK_COUNT } from '@merry-shadow/core/observe/face';
import { emptyHandObservations, HAND_MARK_COUNT } from '@merry-shadow/core/observe/hands';
import { emptyBodyObservations, MARK, MARK_COUNT, type MarkName } from '@merry-shadow/core/observe/body';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { shapeCurve } from '@merry-shadow/core/face/face-shapes';
import { GAZE_CURVES } from '@merry-shadow/core/face/gaze';
import { handTurns } from '@merry-shadow/core/hands/finger-turns';
import { handShape } from '@merry-shadow/core/hands/hand-shapes';
import { averageProportions, humanoidSkeleton } from '@merry-shadow/core/motion/humanoid';
import { restMotion, worldPositions, writeRotation, type Motion } from '@merry-shadow/core/motion/motion';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';
import { LayerRecord } from '@merry-shadow/core/edits/kinds/layer-record';
import { NO_EDITS, withRecord, type TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { exampleMotion } from '../../../packages/core/test/example-motion';
import { trailsAt } from '../src/look/stage/trails';
import { closeUpOf } from '../src/look/close-up';
import { takeCurves } from '../src/look/take-curves';
import { nextKey, withMovedLayer } from '../src/pose/layer-edits';
import { draggedAway, limbJointOf, marksOf, nearerThanHips, withDepths } from '../src/pose/told-depth';

const FRAMES = 20;
/** A body whose marks lie where they are put; hands and face as they are given. */
function seenAs(
  marks: Partial<Record<MarkName, readonly [number, number]>>,
  more: Partial<Pick<Observations, 'hands' | 'face'>> = {},
): Observations {
  const seen = emptyBodyObservations(FRAMES, 30, 640, 360);
  seen.presence.fill(1);
  for (let f = 0; f < FRAMES; f++)
    for (const [mark, [x, y]] of Object.entries(marks))
      seen.marks.set([x, y, 1], (f * MARK_COUNT + MARK[mark as MarkName]) * 3);
  return { ...seen, ...more } as Observations;
}

describe('a close-up in the picture', () => {
  it('shows the face by its own marks, with room around', () => {
    const face = emptyFaceObservations(FRAMES);
    face.presence.fill(1);
    for (let f = 0; f < FRAMES; f++)
      for (const [mark, x, y] of [
        [454, 340, 100],
        [234, 300, 100],
        [168, 320, 95],
      ])
        // prettier-ignore
        face.marks.set([x, y, 0], (f * FACE_MARK_COUNT + mark) * 3);
    const square = closeUpOf(seenAs({}, { face }), 10, 'face');
    expect(square).toMatchObject({ x: 320, y: 101 });
    expect(square?.size).toBeGreaterThan(80);
  });

  it('shows it by nose and ears where the face was not seen, and nothing where nobody was', () => {
    const marks = { nose: [200, 80], leftEar: [215, 82], rightEar: [185, 82] } as const;
    expect(closeUpOf(seenAs(marks), 5, 'face')).toMatchObject({ x: 200, y: 80 });
    expect(closeUpOf(seenAs({}), 5, 'face')).toBeNull();
  });

  it('shows a hand by its knuckles, and where it was lost the end of the arm', () => {
    const hands = { left: emptyHandObservations(FRAMES), right: emptyHandObservations(FRAMES) };
    hands.left.presence.fill(1, 0, 8);
    for (let f = 0; f < 8; f++) {
      hands.left.marks.set([100, 100], f * HAND_MARK_COUNT * 2);
      hands.left.marks.set([100, 80], (f * HAND_MARK_COUNT + 9) * 2);
    }
    const seen = seenAs({ leftWrist: [102, 104], leftElbow: [102, 164] }, { hands });
    expect(closeUpOf(seen, 0, 'left hand')).toMatchObject({ x: 100, y: 80, size: 84 });
    expect(closeUpOf(seen, 19, 'left hand')).toMatchObject({ x: 102, y: 104, size: 72 });
    // In between it passes over from the one to the other.
    expect(closeUpOf(seen, 8, 'left hand')?.y).toBeGreaterThan(80);
    expect(closeUpOf(seen, 8, 'left hand')?.y).toBeLessThan(104);
  });
});

describe('curves of a take', () => {
  const body = restMotion(humanoidSkeleton(averageProportions(1.7), true), 4, 30);
  const curve = (name: string, value: number): Motion['curves'][number] => ({
    name,
    values: new Float32Array(4).fill(value),
  });
  const motion: Motion = { ...body, curves: [curve(shapeCurve('jawOpen'), 0.4), curve(GAZE_CURVES.across, 0.1)] };

  it('are those that it has: shapes, gaze in degrees, bends of fingers', () => {
    const curves = takeCurves(motion);
    expect(curves.map(({ title }) => title)).toEqual(
      expect.arrayContaining(['jaw open', 'left index, whole bend', 'right thumb, whole bend']),
    );
    const gaze = curves.find(({ id }) => id === GAZE_CURVES.across);
    expect(gaze?.unit).toBe('°');
    expect(gaze?.values(motion)[0]).toBeCloseTo(5.73, 2);
    const bare = takeCurves({ ...body, skeleton: humanoidSkeleton(averageProportions(1.7)) });
    expect(bare.filter(({ unit, id }) => unit === '' || /^(left|right)\./.test(id))).toEqual([]);
  });

  it('tell how far a finger is bent', () => {
    const fist = { ...motion, rotations: motion.rotations.slice() };
    for (const [bone, turn] of handTurns('left', handShape('fist')))
      writeRotation(fist, jointIndex(fist.skeleton, bone), 2, turn);
    const index = takeCurves(fist).find(({ id }) => id === 'left.Index');
    const [open, , closed] = index?.values(fist) ?? [];
    expect(open).toBeCloseTo(0, 3);
    expect(closed).toBeGreaterThan(150);
  });
});

describe('what is read of the body', () => {
  const stand = restMotion(humanoidSkeleton(averageProportions(1.7)), 11, 30);
  const read = (id: string, motion: Motion, frame: number): number | undefined =>
    takeCurves(motion)
      .find((curve) => curve.id === id)
      ?.values(motion)[frame];

  it('is nothing in somebody who stands in a T-pose', () => {
    for (const { values, unit } of takeCurves(stand))
      for (const value of values(stand)) expect(Math.abs(value)).toBeLessThan(unit === '°' ? 4 : 1e-4);
  });

  it('tells heights of soles in centimetres with their part, and speeds in metres a second', () => {
    const rising = {
      ...stand,
      root: stand.root.map((value, i) => value + (i % 3 === 1 ? Math.floor(i / 3) * 0.01 : 0)),
    };
    expect(read('height.leftHeel', rising, 10)).toBeCloseTo(10, 4);
    expect(takeCurves(rising).find(({ id }) => id === 'height.rightToe')).toMatchObject({
      part: 'rightToe',
      title: 'height of the right ball',
      unit: 'cm',
    });
    // A centimetre a frame, thirty frames a second, at the ends, too.
    for (const frame of [0, 5, 10]) expect(read('speed.rightHand', rising, frame)).toBeCloseTo(0.3, 4);
  });

  it('tells how far elbows and knees are bent, and how far the trunk leans', () => {
    const bent = { ...stand, rotations: stand.rotations.slice() };
    const turn = (joint: string, x: number, y: number): void =>
      writeRotation(bent, jointIndex(bent.skeleton, joint), 3, quat.fromEuler(quat.create(), x, y, 0));
    turn('leftLowerArm', 0, -70);
    turn('rightLowerLeg', 50, 0);
    turn('hips', 25, 0);
    expect(read('bend.left.elbow', bent, 3)).toBeCloseTo(70, 0);
    expect(Math.abs((read('bend.right.knee', bent, 3) ?? 0) - 50)).toBeLessThan(4);
    expect(Math.abs((read('lean', bent, 3) ?? 0) - 25)).toBeLessThan(4);
    expect(Math.abs(read('lean', bent, 4) ?? 99)).toBeLessThan(4);
  });
});

describe('layers of a take', () => {
  const layer = (id: string, frames: number[] = []): LayerRecord =>
    LayerRecord.parse({ kind: 'layer', id, name: id, keys: frames.map((frame) => ({ frame })) });
  const edits: TakeEdits = { ...NO_EDITS, records: [layer('a'), layer('b'), layer('c')] };
  const ids = ({ records }: TakeEdits): string => records.map(({ id }) => id).join('');

  it('are changed in their place, added at the end, and moved among each other', () => {
    expect(withRecord(edits, layer('b', [4])).records[1]).toMatchObject({ id: 'b', keys: [{ frame: 4 }] });
    expect(ids(withRecord(edits, layer('d')))).toBe('abcd');
    expect(ids(withMovedLayer(edits, 'a', 1))).toBe('bac');
    expect(ids(withMovedLayer(edits, 'c', -1))).toBe('acb');
    expect(withMovedLayer(edits, 'c', 1)).toBe(edits);
  });

  it('have keys before and after, round the ends', () => {
    const keyed = layer('k', [10, 20, 40]);
    expect([nextKey(keyed, 20, 1), nextKey(keyed, 20, -1), nextKey(keyed, 40, 1), nextKey(keyed, 5, -1)]).toEqual([
      40, 10, 10, 40,
    ]);
    expect(nextKey(layer('none'), 3, 1)).toBeNull();
  });
});

describe('a depth that is told', () => {
  it('is of the mark at a joint, against the hips, along the line of the camera', () => {
    expect(['leftHand', 'rightLowerLeg', 'hips'].map(marksOf)).toEqual([['leftWrist'], ['rightKnee'], []]);
    expect([limbJointOf('leftWrist'), limbJointOf('leftShoulder'), limbJointOf('nose')]).toEqual([
      'leftHand',
      null,
      null,
    ]);
    const stand = restMotion(humanoidSkeleton(averageProportions(1.7)), 1, 30);
    expect(nearerThanHips(stand, 'leftHand', [0, 0, 1])).toBeCloseTo(0, 6);
    expect(nearerThanHips(stand, 'leftHand', [1, 0, 0])).toBeGreaterThan(0.5);
  });

  it('stands in the place of what was told of the same mark in the same frame', () => {
    const once = withDepths(NO_EDITS, [{ mark: 'leftWrist', nearer: 0.1 }], 7);
    const again = withDepths(once, [{ mark: 'leftWrist', nearer: 0.2 }], 7);
    expect(again.records).toMatchObject([{ kind: 'depth-hint', frame: 7, nearer: 0.2 }]);
    expect(withDepths(again, [{ mark: 'leftWrist', nearer: 0.2 }], 8).records).toHaveLength(2);
  });

  it('of the head is that of the shoulders of a trunk that leans, the hips where they are', () => {
    expect(marksOf('head')).toEqual(['leftShoulder', 'rightShoulder']);
    const stand = restMotion(humanoidSkeleton(averageProportions(1.7)), 1, 30);
    const placeOf = (motion: Motion, name: string): number[] => {
      const at = jointIndex(motion.skeleton, name) * 3;
      return [...worldPositions(motion).slice(at, at + 3)];
    };
    const [x, y, z] = placeOf(stand, 'head');
    const leant = draggedAway(stand, 'head', [x, y, z + 0.2]);
    expect(placeOf(leant, 'head')[2] - z).toBeGreaterThan(0.15);
    expect(placeOf(leant, 'head')[2] - z).toBeLessThan(0.25);
    expect(placeOf(leant, 'hips')).toEqual(placeOf(stand, 'hips'));
    const shoulders = marksOf('head').map((mark) =>
      nearerThanHips(leant, mark.replace('Shoulder', 'UpperArm'), [0, 0, 1]),
    );
    for (const nearer of shoulders) expect(nearer).toBeGreaterThan(0.1);
  });
});

it('trails go where the joints do, some frames to either side and no farther than the take', () => {
  const motion = exampleMotion(60);
  const places = worldPositions(motion);
  const { from, ways } = trailsAt(motion, 10);
  expect(from).toBe(0);
  const hand = ways.find(({ name }) => name === 'rightHand');
  const joints = motion.skeleton.joints.length;
  const joint = jointIndex(motion.skeleton, 'rightHand');
  expect(hand?.places.length).toBe((10 + Math.round(0.8 * motion.rate) + 1) * 3);
  for (const frame of [0, 10, 20])
    for (let k = 0; k < 3; k++)
      expect(hand?.places[frame * 3 + k]).toBeCloseTo(places[(frame * joints + joint) * 3 + k], 5);
  expect(trailsAt(motion, 59).ways[0].places.length).toBe((Math.round(0.8 * motion.rate) + 1) * 3);
});
