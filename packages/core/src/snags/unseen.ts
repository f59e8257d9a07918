import { runsWhere } from '../signal/runs';
import type { UnseenPart } from '../observe/unseen';
import type { SnagDetector, SnagKind } from './snag';

/** Stretches that count, seconds. */
const LEAST = 1;
/** A part that was seen in less of the take than this was not meant to be seen. */
const MEANT = 0.3;

/** Stretches in which a hand or the face was not seen, so that it does what it does at rest. */
const notSeen = (kind: SnagKind, title: string, parts: readonly UnseenPart[]): SnagDetector => ({
  kind,
  title,
  find({ motion: { frames, rate }, unseen }) {
    return parts.flatMap((part) => {
      const flags = unseen?.[part];
      if (!flags || flags.length !== frames) return [];
      const missed = flags.reduce((sum, flag) => sum + flag, 0);
      if (missed > (1 - MEANT) * frames) return [];
      return runsWhere(frames, (frame) => flags[frame] !== 0, LEAST * rate).map(([from, until]) => ({
        kind,
        joint: part,
        from,
        until,
        severity: (until - from) / rate,
        unit: 's' as const,
        mends: [],
      }));
    });
  },
});

export const handLost = notSeen('hand-lost', 'Hand not seen', ['leftHand', 'rightHand']);
export const faceLost = notSeen('face-lost', 'Face not seen', ['face']);
