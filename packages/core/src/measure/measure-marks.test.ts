import { lookAt } from '../camera/pinhole';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { restMotion, worldPositions } from '../motion/motion';
import { MARK, MARK_COUNT } from '../observe/body';
import { FACE_MARK_COUNT } from '../observe/face';
import { HAND_MARK_COUNT } from '../observe/hands';
import { emptyObservations, type Observations } from '../observe/observations';
import { jointPixel, measureMarks, nearestPeople } from './measure-marks';
import type { Truth } from './truth';

const FRAMES = 20;
const camera = lookAt([0, 1.2, 4], [0, 1, 0], 55, 960, 540);

/** A standing body with fingers, moved aside. */
function truthAt(x: number, performer: string): Truth {
  const motion = restMotion(humanoidSkeleton(averageProportions(1.7), true), FRAMES, 30);
  for (let f = 0; f < FRAMES; f++) motion.root[f * 3] += x;
  const all = worldPositions(motion);
  const { joints } = motion.skeleton;
  const flags = new Array<0 | 1>(FRAMES).fill(1);
  return {
    format: 'merry-shadow truth',
    version: 1,
    clip: 'example',
    performer,
    rate: 30,
    frames: FRAMES,
    height: 1.7,
    camera: { ...camera, position: [...camera.position], axes: [...camera.axes] },
    joints: joints.map((joint) => joint.name),
    parents: joints.map((joint) => joint.parent),
    positions: Array.from({ length: FRAMES }, (_, f) => [
      ...all.subarray(f * joints.length * 3, (f + 1) * joints.length * 3),
    ]),
    rotations: [],
    contacts: { leftHeel: flags, leftToe: flags, rightHeel: flags, rightToe: flags },
    mouth: Array.from({ length: FRAMES }, (_, f) => (f % 5) / 5),
    eyelids: [],
  };
}

/** Perfect marks of that body, shifted by some pixels. */
function seen(truth: Truth, shift = 0): Observations {
  const out = emptyObservations(FRAMES, 30, 960, 540, { hands: true, face: true });
  const body = [
    ['Shoulder', 'UpperArm'],
    ['Hip', 'UpperLeg'],
    ['Knee', 'LowerLeg'],
  ];
  const hand: [number, string][] = [
    [0, 'Hand'],
    [5, 'IndexProximal'],
    [9, 'MiddleProximal'],
    [17, 'LittleProximal'],
    [7, 'IndexDistal'],
    [11, 'MiddleDistal'],
  ];
  for (let f = 0; f < FRAMES; f++) {
    out.presence[f] = 0.9;
    out.marks.set([500, 100, 0.9], f * MARK_COUNT * 3);
    for (const side of ['left', 'right'] as const) {
      for (const [mark, joint] of body) {
        const [x, y] = jointPixel(truth, f, side + joint);
        out.marks.set([x + shift, y, 0.9], (f * MARK_COUNT + MARK[`${side}${mark}` as keyof typeof MARK]) * 3);
      }
      if (!out.hands) continue;
      out.hands[side].presence[f] = 0.9;
      for (const [mark, joint] of hand) {
        const [x, y] = jointPixel(truth, f, side + joint);
        out.hands[side].marks.set([x, y + shift], (f * HAND_MARK_COUNT + mark) * 2);
      }
    }
    if (!out.face) continue;
    out.face.presence[f] = 0.9;
    const set = (mark: number, x: number, y: number): void =>
      out.face?.marks.set([x, y, 0], (f * FACE_MARK_COUNT + mark) * 3);
    set(78, 0, 0);
    set(308, 20, 0);
    set(13, 10, 0);
    set(14, 10, 8 * truth.mouth[f]);
  }
  return out;
}

const here = truthAt(0, 'keeper');
const there = truthAt(0.8, 'apprentice');

describe('measuring marks', () => {
  it('finds no fault in perfect ones', () => {
    const figures = measureMarks(seen(here), here);
    expect(figures).toMatchObject({
      frames: FRAMES,
      bodySeen: FRAMES,
      handsSeen: { left: FRAMES, right: FRAMES },
      faceSeen: FRAMES,
    });
    expect(figures.handErrorPx).toBeLessThan(1e-3);
    expect(figures.lipCorrelation).toBeCloseTo(1, 5);
    expect(figures.palmPx).toBeGreaterThan(5);
  });

  it('tells the distance of hands in pixels', () => {
    expect(measureMarks(seen(here, 4), here).handErrorPx).toBeCloseTo(4, 3);
  });

  it('leaves gaps out, and says nothing of what was not asked for', () => {
    const observations = seen(here);
    observations.hands?.left.presence.fill(0, 0, 5);
    observations.presence.fill(0, 0, 3);
    expect(measureMarks(observations, here)).toMatchObject({
      bodySeen: FRAMES - 3,
      handsSeen: { left: FRAMES - 5, right: FRAMES },
    });
    const plain = measureMarks({ ...observations, hands: null, face: null }, here);
    expect(plain).toMatchObject({
      handsSeen: { left: 0, right: 0 },
      faceSeen: 0,
      handErrorPx: NaN,
      lipCorrelation: NaN,
    });
  });

  it('compares with the right frames of the truth', () => {
    const later = { ...here, mouth: [...here.mouth.slice(1), 0] };
    expect(measureMarks({ ...seen(later), frames: FRAMES - 1 }, here, 1).lipCorrelation).toBeCloseTo(1, 5);
  });
});

describe('whose marks they are', () => {
  it('is counted frame by frame', () => {
    expect(nearestPeople(seen(here), [here, there])).toEqual([FRAMES, 0]);
    expect(nearestPeople(seen(there, -3), [here, there])).toEqual([0, FRAMES]);
  });

  it('shows a confusion, and counts no gap', () => {
    const [mine, theirs] = [seen(here), seen(there)];
    const width = MARK_COUNT * 3;
    mine.marks.set(theirs.marks.subarray(4 * width, 7 * width), 4 * width);
    mine.presence.fill(0, 10, 12);
    expect(nearestPeople(mine, [here, there])).toEqual([FRAMES - 5, 3]);
  });
});
