import { quat } from 'gl-matrix';
import { emptyFaceObservations, FACE_MARK_COUNT, type FaceObservations } from '../observe/face';
import { findBlinks } from './blinks';
import { TOLD_SHAPES, UNTOLD_SHAPES, mirrorOutputs, FACE_OUTPUTS } from './face-map';
import { FACE_MEASURES, measureFace, mirrorMeasures } from './face-measures';
import { FACE_SHAPES, groupOfShape, mirrorShape, sideOfShape } from './face-shapes';
import { GAZE_CURVES, lookShapes } from './gaze';
import { headSpace } from './head-space';
import { lidCurves } from './lids';
import { neutralFace } from './neutral';
import { solveFace } from './solve-face';

/** A made-up face of points that lie anywhere, but each always at the same place of the head. */
function place(mark: number): [number, number, number] {
  const at = (k: number): number => Math.sin(mark * (k + 1) * 12.9898) * 43758.5453;
  const part = (k: number): number => at(k) - Math.floor(at(k)) - 0.5;
  return [part(0) * 160, part(1) * 200, part(2) * 80];
}

/** That face in some frames, turned, moved and nearer or farther. */
function facesAt(
  turns: readonly quat[],
  change?: (mark: number, frame: number, at: number[]) => void,
): FaceObservations {
  const face = emptyFaceObservations(turns.length);
  turns.forEach((turn, frame) => {
    face.presence[frame] = 0.9;
    face.turn.set(turn, frame * 4);
    const [x, y, z, w] = turn;
    for (let mark = 0; mark < FACE_MARK_COUNT; mark++) {
      const at = [...place(mark)];
      change?.(mark, frame, at);
      const [a, b, c] = at;
      const [p, q, r] = [y * c - z * b + w * a, z * a - x * c + w * b, x * b - y * a + w * c];
      const turned = [a + 2 * (y * r - z * q), b + 2 * (z * p - x * r), c + 2 * (x * q - y * p)];
      const size = 1 + frame * 0.05;
      face.marks.set(
        [300 + turned[0] * size, 200 - turned[1] * size, -turned[2] * size],
        (frame * FACE_MARK_COUNT + mark) * 3,
      );
    }
  });
  return face;
}

const yaw = (angle: number): quat => quat.fromEuler([0, 0, 0, 1], 0, angle, 0);

describe('the shapes of a face', () => {
  it('are the 52 of the trade, told or told apart from those that are not, each in a group', () => {
    expect(FACE_SHAPES).toHaveLength(52);
    expect(new Set(FACE_SHAPES).size).toBe(52);
    expect(TOLD_SHAPES.length + UNTOLD_SHAPES.length + 8).toBe(52);
    expect(UNTOLD_SHAPES).toEqual(
      expect.arrayContaining(['tongueOut', 'jawForward', 'cheekSquintLeft', 'noseSneerRight']),
    );
    expect(groupOfShape('jawOpen')).toBe('jaw');
    expect(sideOfShape('mouthLeft')).toBeNull();
    expect(sideOfShape('mouthSmileLeft')).toBe('left');
    for (const shape of FACE_SHAPES) expect(mirrorShape(mirrorShape(shape))).toBe(shape);
  });

  it('mirror as measures and outputs do', () => {
    const measures = FACE_MEASURES.map((_, i) => i + 1);
    expect(mirrorMeasures(mirrorMeasures(measures))).toEqual(measures);
    const outputs = Array.from({ length: FACE_OUTPUTS }, (_, i) => i);
    expect(mirrorOutputs(mirrorOutputs(outputs))).toEqual(outputs);
    expect(mirrorOutputs(outputs)[TOLD_SHAPES.indexOf('mouthSmileLeft')]).toBe(TOLD_SHAPES.indexOf('mouthSmileRight'));
  });
});

describe("the head's own axes", () => {
  it('are the same however the head is turned, moved and sized', () => {
    const space = headSpace(facesAt([yaw(0), yaw(20), yaw(-30), quat.fromEuler([0, 0, 0, 1], 15, 10, 5)]));
    const first = space.marks.subarray(0, FACE_MARK_COUNT * 3);
    for (const frame of [1, 2, 3]) {
      const other = space.marks.subarray(frame * FACE_MARK_COUNT * 3, (frame + 1) * FACE_MARK_COUNT * 3);
      expect(Math.max(...first.map((value, i) => Math.abs(value - other[i])))).toBeLessThan(1e-3);
    }
    const turned = [1, 2].map((frame) => (space.view[frame * 2] - space.view[0]) * (180 / Math.PI));
    expect(turned[0]).toBeCloseTo(20, 1);
    expect(turned[1]).toBeCloseTo(-30, 1);
  });

  it('say nothing where no face was seen', () => {
    const face = facesAt([yaw(0), yaw(5)]);
    face.presence[1] = 0;
    const { marks } = headSpace(face);
    expect(marks[0]).not.toBeNaN();
    expect(marks[FACE_MARK_COUNT * 3]).toBeNaN();
    expect(solveFace(emptyFaceObservations(5), 30)).toEqual([]);
  });
});

describe('a neutral face', () => {
  const still = measureFace(headSpace(facesAt([yaw(0)])), 0);
  const gap = FACE_MEASURES.indexOf('gap');
  const measures = Array.from({ length: 60 }, (_, frame) =>
    still.map((value, i) => value + (i === gap && frame > 20 ? 0.3 : 0)),
  );

  it('is found where the mouth is closed', () => {
    expect(neutralFace(measures)?.[gap]).toBeCloseTo(still[gap], 6);
  });

  it('is the frame that a person picked', () => {
    expect(neutralFace(measures, 40)?.[gap]).toBeCloseTo(still[gap] + 0.3, 6);
  });

  it('is nothing where no face was seen', () => {
    expect(neutralFace([null, null])).toBeNull();
  });
});

describe('lids', () => {
  const rate = 30;
  const measuresOf = (open: (frame: number) => number): number[][] =>
    Array.from({ length: 120 }, (_, frame) =>
      FACE_MEASURES.map((name) => (name.endsWith('.open') ? 0.34 * open(frame) : 0)),
    );

  it('close at a blink, and not while eyes are narrowed', () => {
    const { left, right } = lidCurves(
      measuresOf((frame) => (frame >= 40 && frame < 43 ? 0.15 : frame >= 70 ? 0.75 : 1)),
      rate,
    );
    expect(left[41]).toBeGreaterThan(0.95);
    expect(right[41]).toBeGreaterThan(0.95);
    expect(left[30]).toBe(0);
    expect(left[100]).toBeLessThan(0.1);
    const blinks = findBlinks(left, 0.5);
    expect(blinks.map(({ from, until }) => [from, until])).toEqual([[40, 43]]);
  });

  it('stay closed while eyes stay closed', () => {
    const { left } = lidCurves(
      measuresOf((frame) => (frame >= 40 && frame < 90 ? 0.1 : 1)),
      rate,
    );
    expect(Math.min(...left.subarray(45, 85))).toBeGreaterThan(0.8);
  });
});

it('eyes that look to the left turn the left one out and the right one in', () => {
  const looks = new Map(lookShapes(Float32Array.of(0.3), Float32Array.of(-0.2)));
  expect(looks.get('eyeLookOutLeft')?.[0]).toBeGreaterThan(0.5);
  expect(looks.get('eyeLookInRight')?.[0]).toBe(looks.get('eyeLookOutLeft')?.[0]);
  expect(looks.get('eyeLookInLeft')?.[0]).toBe(0);
  expect(looks.get('eyeLookDownLeft')?.[0]).toBeGreaterThan(0.4);
  expect(looks.get('eyeLookUpRight')?.[0]).toBe(0);
});

it('a face gives curves from 0 to 1, and where the eyes look', () => {
  const turns = Array.from({ length: 40 }, (_, frame) => yaw(frame - 20));
  const curves = solveFace(facesAt(turns), 30);
  const names = curves.map(({ name }) => name);
  expect(names).toEqual(
    expect.arrayContaining(['face.jawOpen', 'face.eyeLookUpLeft', GAZE_CURVES.across, GAZE_CURVES.up]),
  );
  for (const { name, values } of curves) {
    expect(values).toHaveLength(40);
    if (name.startsWith('face.')) for (const value of values) expect(value >= 0 && value <= 1).toBe(true);
  }
});

it('a voice tells the mouth where no face is seen, and only there', () => {
  const face = facesAt(Array.from({ length: 60 }, () => yaw(0)));
  face.presence.fill(0, 20, 50);
  const mouth = new Float32Array(60).fill(0.7);
  const jaw = (heard?: Float32Array): Float32Array =>
    solveFace(face, 30, { mouth: heard }).find(({ name }) => name === 'face.jawOpen')?.values ?? new Float32Array();
  expect(jaw(mouth)[35] - jaw()[35]).toBeGreaterThan(0.5);
  expect(Math.abs(jaw(mouth)[5] - jaw()[5])).toBeLessThan(0.05);
  const unseen = emptyFaceObservations(60);
  expect(solveFace(unseen, 30, { mouth }).map(({ name }) => name)).toEqual(['face.jawOpen']);
});
