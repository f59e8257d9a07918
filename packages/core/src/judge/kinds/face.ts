import { medianOf, ofWhole, type Judge } from '../judge';

/** Height of a face in which lips and brows are told apart, and of one in which nothing is, pixels. */
const CLEAR = 110;
const NOTHING = 42;

/** A face that is too small for its expressions. */
export const face: Judge = {
  kind: 'face',
  title: 'Face large enough',
  chart: { column: 'face', title: 'Height of the face', unit: 'px' },
  badness: (looks) =>
    looks.face.map((pixels) =>
      pixels === null ? null : Math.min(0.45, Math.max(0, (CLEAR - pixels) / (CLEAR - NOTHING))),
    ),
  find: (looks) => {
    const pixels = medianOf(looks.face);
    if (pixels === null || pixels >= CLEAR) return [];
    const lost = pixels < NOTHING;
    const says =
      pixels === 0
        ? 'The face looks away from the camera most of the time.'
        : `The face is ${Math.round(pixels)} pixels high: ${lost ? 'its expressions will not be told' : 'fine expressions will be coarse'}.`;
    const advice = 'Film the face nearer, or with a camera of its own, when its expressions matter.';
    return [ofWhole('face', looks, lost ? 0.16 : 0.1, says, advice)];
  },
};
