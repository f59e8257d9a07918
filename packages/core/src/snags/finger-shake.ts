import { FINGERS, fingerBones, SIDES } from '../motion/humanoid';
import { jointIndex } from '../motion/skeleton';
import { PassStep } from '../passes/run-passes';
import { gaussianColumns } from '../signal/gaussian';
import { turnBetween } from '../signal/joint-columns';
import { runsWhere } from '../signal/runs';
import type { SnagDetector } from './snag';

/** Seconds of the stretch that shake is averaged over; shake that counts, radians from frame to frame and back; how long it lasts at least, seconds. */
const STRETCH = 0.2;
const LIMIT = 0.07;
const LEAST = 0.25;

/** Fingers that tremble: what their joints turn from one frame to the next and back again. */
export const fingerShake: SnagDetector = {
  kind: 'finger-shake',
  title: 'Fingers shake',
  find({ motion }) {
    const { frames, rate } = motion;
    return SIDES.flatMap((side) => {
      const joints = FINGERS.flatMap((finger) =>
        fingerBones(finger)
          .slice(0, 2)
          .map((bone) => side + finger + bone),
      )
        .map((name) => jointIndex(motion.skeleton, name))
        .filter((joint) => joint >= 0);
      if (joints.length === 0 || frames < 4) return [];
      const off = Float32Array.from({ length: frames }, (_, frame) => {
        if (frame < 1 || frame + 1 >= frames) return 0;
        // Forth and back: both steps are large, what is left of them together is small.
        const back = joints.map(
          (joint) =>
            (turnBetween(motion, joint, frame - 1, frame) +
              turnBetween(motion, joint, frame, frame + 1) -
              turnBetween(motion, joint, frame - 1, frame + 1)) /
            2,
        );
        return Math.max(...back);
      });
      const mean = gaussianColumns(off, 1, (STRETCH * rate) / 2);
      return runsWhere(frames, (frame) => mean[frame] > LIMIT, LEAST * rate).map(([from, until]) => ({
        kind: 'finger-shake' as const,
        joint: `${side}Hand`,
        from,
        until,
        severity: (Math.max(...mean.subarray(from, until)) * 180) / Math.PI,
        unit: '°' as const,
        mends: [
          {
            pass: PassStep.parse({
              pass: 'calm-fingers',
              options: { fingers: 0.12 },
              range: [from, until],
              parts: [`${side}Hand`],
            }),
          },
        ],
      }));
    });
  },
};
