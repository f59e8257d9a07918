import { badStretches, ofStretch, whenWords, type Judge } from '../judge';
import { FRAMED_PARTS, type FramedPart, type Looks } from '../looks';

/** What it costs when a part leaves the picture, what is said, and what to do. */
const PARTS: Record<FramedPart, { cost: number; says: string; advice: string }> = {
  head: { cost: 0.9, says: 'The head leaves the picture', advice: 'Step back, or raise the camera.' },
  hands: { cost: 0.6, says: 'A hand leaves the picture', advice: 'Step back until wide arms fit in.' },
  legs: {
    cost: 1,
    says: 'Legs are out of the picture',
    advice: 'Step back until the feet are seen, or track the take as seated.',
  },
  feet: {
    cost: 0.85,
    says: 'Feet leave the picture',
    advice: 'Stand two steps further back, or tilt the camera down: what is not seen is guessed.',
  },
};
/** From this share of its marks on, a part is missed. */
const MISSED = 0.5;

const missed = (share: number | null): boolean => (share ?? 0) >= MISSED;
const badnessOf = (looks: Looks, part: FramedPart): (number | null)[] =>
  looks.outside[part].map((share) => (share === null ? null : missed(share) ? PARTS[part].cost : 0));

/** Where legs are missing most of the time, that is said, and not of the feet, too. */
const mostly = (legs: readonly (number | null)[]): boolean => legs.filter(missed).length * 2 > legs.length;

/** Parts of the body that the picture cuts off. */
export const framing: Judge = {
  kind: 'framing',
  title: 'Whole body in the picture',
  badness: (looks) => {
    const parts = FRAMED_PARTS.map((part) => badnessOf(looks, part));
    return looks.at.map((_, i) => {
      const told = parts.map((badness) => badness[i]).filter((value) => value !== null);
      return told.length > 0 ? Math.max(...told) : null;
    });
  },
  find: (looks) =>
    FRAMED_PARTS.flatMap((part) =>
      badStretches(looks, badnessOf(looks, part))
        .filter(({ first, last }) => part !== 'feet' || !mostly(looks.outside.legs.slice(first, last + 1)))
        .map((stretch) =>
          ofStretch('framing', stretch, 0.9, `${PARTS[part].says} ${whenWords(stretch, looks)}.`, PARTS[part].advice),
        ),
    ),
};
