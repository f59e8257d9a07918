import { emptyBodyObservations } from '../observe/body';
import { emptyFaceObservations } from '../observe/face';
import { emptyHandObservations } from '../observe/hands';
import { lowestSole } from '../ground/floor';
import { jointIndex } from '../motion/skeleton';
import { worldPositions } from '../motion/motion';
import { SolveError, solveTake } from './solve-take';

/** A take in which no body was ever seen. */
const FRAMES = 60;
const nobody = { ...emptyBodyObservations(FRAMES, 30, 640, 480), cut: new Float32Array(FRAMES) };
const face = emptyFaceObservations(FRAMES);
face.presence.fill(1, 10);
const hand = { ...emptyHandObservations(FRAMES), presence: new Float32Array(FRAMES).fill(1) };

describe('with the camera held on the head', () => {
  const solved = solveTake(
    { ...nobody, face, hands: { left: hand, right: hand } },
    { height: 1.6, fieldOfView: 70, manner: 'held' },
  );

  it('somebody of that height stands easy and still, without a body having been seen', () => {
    const { motion, body } = solved;
    expect([body.proportions.height, body.heightEstimated, motion.frames]).toEqual([1.6, false, FRAMES]);
    const places = worldPositions(motion);
    const stride = motion.skeleton.joints.length * 3;
    for (let i = 0; i < stride; i++) expect(places[40 * stride + i]).toBe(places[i]);
    expect(Math.abs(lowestSole(motion)[0])).toBeLessThan(1e-6);
    const at = (joint: string): number => places[jointIndex(motion.skeleton, joint) * 3 + 1];
    expect(at('leftHand')).toBeLessThan(at('hips') + 0.1);
  });

  it('the face moves, and neither hands nor feet are missed', () => {
    expect(solved.motion.curves.map(({ name }) => name)).toContain('face.jawOpen');
    expect(Object.entries(solved.unseen)).toEqual([
      ['face', Uint8Array.from({ length: FRAMES }, (_, f) => (f < 10 ? 1 : 0))],
    ]);
    expect(solved.contacts).toBeNull();
    expect(Math.max(...solved.bridged)).toBe(0);
  });

  it('a face that was not captured or never seen is told in a sentence', () => {
    expect(() => solveTake(nobody, { manner: 'held' })).toThrow(SolveError);
    expect(() => solveTake(nobody, { manner: 'held' })).toThrow('turn on Face');
    const hidden = { ...nobody, face: emptyFaceObservations(FRAMES) };
    expect(() => solveTake(hidden, { manner: 'held' })).toThrow('No face was seen');
  });
});
