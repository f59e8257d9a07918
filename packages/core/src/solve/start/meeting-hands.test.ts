import { quat } from 'gl-matrix';
import { observeMotion, solveMade } from '../../../test/observe-motion';
import { lookAt } from '../../camera/pinhole';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { restMotion, worldPositions, writeRotation, type Motion } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import { MARK, MARK_COUNT, type BodyObservations } from '../../observe/body';
import { isSomebodyElse } from '../observe/somebody-else';
import { atOneDepth, meetingHints, type Depths } from './meeting-depths';
import { findMeetings, withHiddenHands, type Meeting } from './meeting-hands';

const HEIGHT = 1.75;
const FIELD_OF_VIEW = 50;
const camera = lookAt([0, 1.4, 4.6], [0, 0.9, 0], FIELD_OF_VIEW, 1280, 720);

/** Somebody who faces aside and holds the right arm out ahead. @param way 1 from the left of the picture, −1 from the right. */
function reaching(way: 1 | -1, x: number, frames = 30): Motion {
  const motion = restMotion(humanoidSkeleton(averageProportions(HEIGHT)), frames, 30);
  const set = (name: string, turn: quat): void => {
    for (let f = 0; f < frames; f++) writeRotation(motion, jointIndex(motion.skeleton, name), f, turn);
  };
  set('hips', quat.fromEuler(quat.create(), 0, way * 90, 0));
  set('rightUpperArm', quat.fromEuler(quat.create(), 0, 105, 0));
  set('leftUpperArm', quat.fromEuler(quat.create(), 0, 0, -75));
  for (let f = 0; f < frames; f++) motion.root[f * 3] = x;
  return motion;
}

/** As the network tells depth: the arm as if it pointed aside by so many metres more than it does. */
function misread(observations: BodyObservations, nearer: number): BodyObservations {
  const world = observations.world.slice();
  for (let frame = 0; frame < observations.frames; frame++)
    for (const [mark, share] of [
      ['rightElbow', 0.5],
      ['rightWrist', 1],
      ['rightIndex', 1],
      ['rightPinky', 1],
      ['rightThumb', 1],
    ] as const)
      world[(frame * MARK_COUNT + MARK[mark]) * 3 + 2] += share * nearer;
  return { ...observations, world };
}

describe('hands that meet', () => {
  const motions = [reaching(1, -0.62), reaching(-1, 0.62)];
  const [a, b] = motions.map((motion, i) => misread(observeMotion(motion, camera, HEIGHT), i === 0 ? 0.16 : -0.16));

  it('come together though each is told at another depth', () => {
    const apart = (others: boolean): number => {
      const solved = [a, b].map((footage, i) =>
        solveMade(footage, {
          height: HEIGHT,
          fieldOfView: FIELD_OF_VIEW,
          others: [{ footage: others ? [b, a][i] : shifted([b, a][i]), height: HEIGHT }],
        }),
      );
      const wrists = solved.map(({ motion, camera: { axes, position } }) => {
        const at = (20 * motion.skeleton.joints.length + jointIndex(motion.skeleton, 'rightHand')) * 3;
        const places = worldPositions(motion);
        return [0, 1, 2].reduce((sum, k) => sum + axes[6 + k] * (places[at + k] - position[k]), 0);
      });
      return Math.abs(wrists[0] - wrists[1]);
    };
    expect(apart(false)).toBeGreaterThan(0.1);
    expect(apart(true)).toBeLessThan(0.03);
  });

  /** The same performer's picture moved aside, so that no hands are near each other. */
  function shifted(observations: BodyObservations): BodyObservations {
    return { ...observations, marks: observations.marks.map((value, i) => (i % 3 === 1 ? value - 250 : value)) };
  }

  /** The right wrist's and index's marks moved in some frames, less surely seen. */
  function astray(
    observations: BodyObservations,
    frames: readonly number[],
    by: number,
    sure: number,
  ): BodyObservations {
    const marks = observations.marks.slice();
    for (const frame of frames)
      for (const mark of ['rightWrist', 'rightIndex'] as const) {
        const at = (frame * MARK_COUNT + MARK[mark]) * 3;
        marks[at + 1] += by;
        marks[at + 2] = sure;
      }
    return { ...observations, marks };
  }

  it('are the right ones that stay together', () => {
    const [meeting, ...rest] = findMeetings(a, [b]);
    expect(rest).toEqual([]);
    expect(meeting).toMatchObject({ other: 0, mine: 'right', theirs: 'right' });
    expect(meeting.frames).toHaveLength(a.frames);
  });

  it('are left alone where they only pass each other, or one is hidden and far away', () => {
    expect(findMeetings(a, [{ ...b, presence: b.presence.map((value, frame) => (frame < 5 ? value : 0)) }])).toEqual(
      [],
    );
    const all = Array.from({ length: b.frames }, (_, frame) => frame);
    expect(findMeetings(a, [astray(b, all, 150, 0.1)])).toEqual([]);
  });

  it('still meet while one of them is hidden for a moment and told a little beside', () => {
    const hidden = astray(b, [10, 11, 12, 13], 70, 0.65);
    const meetings = findMeetings(hidden, [a]);
    expect(meetings).toHaveLength(1);
    expect(meetings[0].frames).toHaveLength(a.frames);
    const { marks } = withHiddenHands(hidden, [a], meetings);
    const y = (values: Float32Array, frame: number): number => values[(frame * MARK_COUNT + MARK.rightWrist) * 3 + 1];
    expect(Math.abs(y(marks, 12) - y(b.marks, 12))).toBeLessThan(25);
    expect(y(marks, 20)).toBe(y(b.marks, 20));
  });

  it('tell each half of the way to the other, unless a person told that wrist', () => {
    const depths = (hips: number, wrist: number): Depths => {
      const all = (value: number): Float64Array => new Float64Array(60).fill(value);
      return { hips: all(hips), wrists: { left: all(hips), right: all(wrist) } };
    };
    const frames = Array.from({ length: 45 }, (_, i) => i + 5);
    const meetings: Meeting[] = [{ other: 0, mine: 'right', theirs: 'right', frames }];
    const [own, other] = [depths(4.7, 4.5), depths(4.6, 4.8)];
    const hints = meetingHints(meetings, own, [other], 30);
    expect(hints.length).toBeGreaterThan(3);
    for (const { mark, nearer } of hints) {
      expect(mark).toBe('rightWrist');
      expect(nearer).toBeCloseTo(4.7 - 4.65);
    }
    expect(atOneDepth(meetings, own, [other])).toEqual(meetings);
    expect(atOneDepth(meetings, own, [depths(4.6, 5.4)])).toEqual([{ ...meetings[0], frames: [] }]);
    expect(meetingHints(meetings, own, [other], 30, [{ mark: 'rightWrist', frame: 25, nearer: 0.3 }])).toEqual([]);
    expect(meetingHints(meetings, own, [other], 30, [{ mark: 'leftWrist', frame: 25, nearer: 0.3 }])).toEqual(hints);
  });

  it('are of two people, and not of one who was captured twice', () => {
    expect(isSomebodyElse(a, b)).toBe(true);
    expect(isSomebodyElse(a, { ...a, marks: a.marks.map((value) => value + 2) })).toBe(false);
  });
});
