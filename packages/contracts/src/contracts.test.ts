import { MARK_COUNT } from '@merry-shadow/core/observe/body';
import { FACE_MARK_COUNT } from '@merry-shadow/core/observe/face';
import {
  emptyObservations,
  joinChunks,
  observationColumns,
  scalePicture,
  sliceObservations,
  type CapturedParts,
} from '@merry-shadow/core/observe/observations';
import { averageProportions, humanoidSkeleton } from '@merry-shadow/core/motion/humanoid';
import { restMotion } from '@merry-shadow/core/motion/motion';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import { solvedFromBytes, solvedToBytes } from './motion-bytes';
import { MarksFile, marksFileText } from './marks-file';
import { joinObservationBytes, observationsFromBytes, observationsToBytes } from './observation-bytes';
import { NewTake, TakeChange } from './take';

function example(parts: CapturedParts & { depth?: boolean } = { hands: true, face: true }) {
  const observations = emptyObservations(4, 29.97, 1280, 720, parts);
  for (let i = 0; i < MARK_COUNT * 9; i++) {
    observations.marks[i] = i % 3 === 2 ? 0.5 : i + 0.25;
    observations.world[i] = Math.sin(i);
  }
  observations.presence.set([0.9, 0.99, 0.8]);
  observations.hands?.left.presence.set([0.9]);
  observations.hands?.left.marks.fill(7.5, 0, 42);
  observations.hands?.left.world.fill(0.25, 0, 63);
  observations.face?.presence.set([0, 0.75]);
  observations.face?.turn.set([0, 0, 0, 1], 4);
  observations.face?.marks.fill(3, FACE_MARK_COUNT * 3, FACE_MARK_COUNT * 6);
  return observations;
}

describe('observations as bytes', () => {
  it('are told in groups, which join again, older names too', () => {
    const whole = example();
    const groups = (['body', 'space', 'hands', 'face'] as const).map((group) => observationsToBytes(whole, [group]));
    expect(joinObservationBytes(groups.map((bytes) => ({ first: 0, bytes })))).toEqual(whole);
    const body = observationsFromBytes(groups[0]);
    expect(observationsFromBytes(groups[2]).hands?.left.marks).toEqual(whole.hands?.left.marks);
    expect(observationsFromBytes(groups[3]).face?.marks).toEqual(whole.face?.marks);
    // How sure hands and face are counts for the whole take at once; their marks come when they are looked at.
    expect(body.hands?.left.presence).toEqual(whole.hands?.left.presence);
    expect(body.face?.marks.every(Number.isNaN)).toBe(true);
    const old = Buffer.from(observationsToBytes(whole)).toString('latin1').replace('"cameraMotion"', '"sway"        ');
    expect(observationsFromBytes(Buffer.from(old, 'latin1')).cameraMotion).toEqual(whole.cameraMotion);
  });

  it('keep marks of the face to a quarter of a pixel', () => {
    const seen = example();
    seen.face?.marks.set([1.1, 640.37, -3.9], FACE_MARK_COUNT * 3);
    const again = observationsFromBytes(observationsToBytes(seen));
    expect([...(again.face?.marks.subarray(FACE_MARK_COUNT * 3, FACE_MARK_COUNT * 3 + 3) ?? [])]).toEqual([
      1, 640.25, -4,
    ]);
  });

  it('come back bit by bit, gaps too', () => {
    const observations = example();
    const again = observationsFromBytes(observationsToBytes(observations));
    expect(again).toEqual(observations);
    expect(Number.isNaN(again.marks[3 * MARK_COUNT * 3])).toBe(true);
  });

  it('are read from an unaligned place in a shared buffer', () => {
    const bytes = observationsToBytes(example());
    const shared = Buffer.alloc(bytes.length + 9, 7);
    shared.set(bytes, 5);
    expect(observationsFromBytes(shared.subarray(5, 5 + bytes.length))).toEqual(example());
  });

  it('are refused when they are something else or cut off', () => {
    expect(() => observationsFromBytes(new Uint8Array([1, 2, 3]))).toThrow('no observations');
    expect(() => observationsFromBytes(observationsToBytes(example()).subarray(0, 400))).toThrow('cut off');
  });
});

describe('a solved take as bytes', () => {
  it('comes back whole, and is refused when it is something else', () => {
    const motion = restMotion(humanoidSkeleton(averageProportions(1.7)), 5, 24);
    const camera = { position: [0, 1, 4], axes: [1, 0, 0, 0, 1, 0, 0, 0, 1], focal: 900, width: 960, height: 540 };
    const solved = {
      motion,
      camera,
      shots: [
        { from: 0, until: 2, camera },
        { from: 2, until: 5, camera: { ...camera, position: [1, 1, 4] } },
      ],
      body: { proportions: averageProportions(1.7), scale: 1.02, heightEstimated: true },
      turned: 0.03,
      untold: 0.25,
      floorDoubt: 0.05,
      bridged: Uint8Array.of(0, 1, 1, 0, 0),
      unseen: { leftHand: Uint8Array.of(0, 0, 1, 1, 0), face: Uint8Array.of(1, 0, 0, 0, 0) },
      contacts: null,
    } as unknown as SolvedTake;
    expect(solvedFromBytes(solvedToBytes(solved))).toEqual(solved);
    const foot = Float64Array.of(0, 0.5, 1, 1, 1);
    const contacts = { leftHeel: foot, leftToe: foot, rightHeel: foot, rightToe: foot };
    expect(solvedFromBytes(solvedToBytes({ ...solved, contacts })).contacts).toEqual(contacts);
    // Curves and joints that are turned at rest are kept, too.
    const values = Float32Array.from({ length: 5 }, (_, f) => f / 4);
    const joints = motion.skeleton.joints.map((joint) => ({ ...joint, rest: [0, 1, 0, 0] as const }));
    const whole = { ...motion, skeleton: { joints }, curves: [{ name: 'face.jawOpen', values }] };
    expect(solvedFromBytes(solvedToBytes({ ...solved, motion: whole })).motion).toEqual(whole);
    expect(() => solvedFromBytes(observationsToBytes(example()))).toThrow('no columns of a motion');
  });
});

describe('pieces of observations', () => {
  it('join to the whole, in any order', () => {
    const whole = example();
    const pieces = [
      [2, 4],
      [0, 2],
    ].map(([from, until]) => ({ first: from, observations: sliceObservations(whole, from, until) }));
    expect(joinChunks(pieces)).toEqual(whole);
    expect(joinChunks([]).frames).toBe(0);
  });

  it('are told in pixels of another picture size', () => {
    const twice = scalePicture(example(), 2560, 1440);
    expect([twice.width, twice.height]).toEqual([2560, 1440]);
    expect(twice.marks[0]).toBe(example().marks[0] * 2);
    expect(twice.marks[2]).toBe(0.5);
    expect(twice.world).toEqual(example().world);
    expect(twice.hands?.left.marks[1]).toBe(15);
    expect(twice.face?.marks[FACE_MARK_COUNT * 3 + 2]).toBe(6);
  });

  it('have columns as long as their frames', () => {
    for (const { data, width } of observationColumns(example())) expect(data.length).toBe(4 * width);
  });
});

describe('how the camera moved', () => {
  it('is stored, and its pixels alone are scaled with the picture', () => {
    const moved = example();
    moved.cameraMotion.set([1.5, -0.25, 0.002, 0.01], 8);
    expect(observationsFromBytes(observationsToBytes(moved)).cameraMotion).toEqual(moved.cameraMotion);
    const twice = scalePicture(moved, 2560, 1440);
    expect(Array.from(twice.cameraMotion.subarray(8, 12))).toEqual(Array.from(Float32Array.of(3, -0.5, 0.002, 0.01)));
  });
});

describe("a depth camera's depths", () => {
  const seen = example({ hands: false, face: false, depth: true });
  seen.depth?.set([2.34567, NaN, 1.5]);

  it('are stored, cut and joined like the rest', () => {
    expect(observationsFromBytes(observationsToBytes(seen))).toEqual(seen);
    const pieces = [0, 2].map((first) => ({ first, observations: sliceObservations(seen, first, first + 2) }));
    expect(joinChunks(pieces)).toEqual(seen);
    expect(scalePicture(seen, 640, 360).depth).toEqual(seen.depth);
  });

  it('stand in the marks file, empty where nothing was told', () => {
    const { frames } = MarksFile.parse(JSON.parse([...marksFileText('clip', seen)].join('')));
    expect(frames[0].depth?.slice(0, 4)).toEqual([2.3457, null, 1.5, null]);
    expect(frames[3].depth).toBeUndefined();
  });
});

describe('the marks file', () => {
  it('keeps to its own schema and leaves gaps empty', () => {
    const file = MarksFile.parse(JSON.parse([...marksFileText('clip', example())].join('')));
    expect(file.frames).toHaveLength(4);
    expect(file.frames[0].marks).toHaveLength(33);
    expect(file.frames[0].world?.[1]).toEqual({
      x: Number(Math.sin(3).toFixed(5)),
      y: Number(Math.sin(4).toFixed(5)),
      z: Number(Math.sin(5).toFixed(5)),
    });
    expect(file.frames[3]).toEqual({
      frame: 3,
      presence: 0,
      marks: null,
      world: null,
      leftHand: null,
      rightHand: null,
      face: null,
    });
    expect(file.frames[0].leftHand?.marks[20]).toEqual({ x: 7.5, y: 7.5 });
    expect(file.frames[1].face).toMatchObject({ presence: 0.75, turn: [0, 0, 0, 1] });
    const plain = MarksFile.parse(
      JSON.parse([...marksFileText('clip', example({ hands: false, face: false }))].join('')),
    );
    expect(plain.frames[0].leftHand).toBeUndefined();
  });

  it('tells how the camera moved, where it did', () => {
    const moved = example();
    moved.cameraMotion.set([1.5, -0.25, 0.002, 0], 4);
    const { frames } = MarksFile.parse(JSON.parse([...marksFileText('clip', moved)].join('')));
    expect(frames.map(({ cameraMotion }) => cameraMotion)).toEqual([
      undefined,
      [1.5, -0.25, 0.002, 0],
      undefined,
      undefined,
    ]);
  });
});

describe('takes', () => {
  it('get settings with defaults', () => {
    expect(NewTake.parse({ fromFrame: 0, untilFrame: 9 }).settings).toEqual({
      height: null,
      fieldOfView: null,
      tilt: null,
      cuts: null,
      steady: true,
      calibration: null,
      neutral: null,
      hands: true,
      face: true,
      slowMotion: 1,
      manner: 'about',
      fine: false,
      performedBy: null,
      performer: null,
      performerAgain: [],
    });
    // A change of one setting leaves the others alone.
    expect(TakeChange.parse({ settings: { height: 1.7 } }).settings).toEqual({ height: 1.7 });
  });

  it.each([
    [{ name: '  ' }],
    [{ fromFrame: -1 }],
    [{ settings: { height: 9 } }],
    [{ settings: { tilt: 61 } }],
    [{ settings: { calibration: -1 } }],
    [{ settings: { calibration: 2.5 } }],
    [{ name: 'x'.repeat(81) }],
  ])('refuse %j', (change) => {
    expect(TakeChange.safeParse(change).success).toBe(false);
  });
});
