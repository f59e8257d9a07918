import { GAZE_CURVES } from '../face/gaze';
import { PassStep } from '../passes/run-passes';
import type { SnagDetector } from './snag';

/** Eyes that go away by this much and are back within so many seconds have not looked at anything: radians, seconds. */
const AWAY = 0.14;
const BACK = 0.13;

/** A gaze that leaps away and back at once. */
export const gazeJumps: SnagDetector = {
  kind: 'gaze-jump',
  title: 'Gaze jumps',
  find({ motion: { curves, rate, frames } }) {
    const [across, up] = [GAZE_CURVES.across, GAZE_CURVES.up].map(
      (name) => curves.find((curve) => curve.name === name)?.values,
    );
    if (!across || !up) return [];
    const apart = (a: number, b: number): number => Math.hypot(across[a] - across[b], up[a] - up[b]);
    const longest = Math.max(2, Math.round(BACK * rate));
    const found = [];
    for (let frame = 1; frame + 1 < frames; frame++) {
      if (apart(frame, frame - 1) <= AWAY / 2) continue;
      let until = 0;
      let most = 0;
      for (let end = frame + 1; end <= Math.min(frames - 1, frame - 1 + longest); end++) {
        for (let at = frame; at < end; at++) {
          const away = Math.min(apart(at, frame - 1), apart(at, end));
          if (away > AWAY && apart(frame - 1, end) < away / 3 && away > most) [most, until] = [away, end];
        }
      }
      if (until === 0) continue;
      found.push({
        kind: 'gaze-jump' as const,
        joint: 'face',
        from: frame,
        until,
        severity: (most * 180) / Math.PI,
        unit: '°' as const,
        mends: [
          {
            pass: PassStep.parse({
              pass: 'hold-gaze',
              range: [Math.max(0, frame - 2), Math.min(frames, until + 2)],
              parts: ['face'],
              ease: 2,
            }),
          },
        ],
      });
      frame = until;
    }
    return found;
  },
};
