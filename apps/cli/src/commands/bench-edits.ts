import { finishedMotion, TakeEvaluator, type Evaluated } from '@merry-shadow/core/edits/evaluate/take-evaluator';
import { LayerRecord } from '@merry-shadow/core/edits/kinds/layer-record';
import { PassRecord } from '@merry-shadow/core/edits/kinds/pass-record';
import { withPlant } from '@merry-shadow/core/edits/plants-of';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import { TakeEdits, withRecord } from '@merry-shadow/core/edits/take-edits';
import { keyPose } from '@merry-shadow/core/layers/key-pose';
import { emptyPose, poseAt } from '@merry-shadow/core/motion/motion';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';
import { PASSES } from '@merry-shadow/core/passes/registry';
import { dragPose } from '@merry-shadow/core/posing/drag-pose';
import { placeIn } from '@merry-shadow/core/posing/handles';
import { median } from '@merry-shadow/core/signal/joint-columns';
import { sliceMotion } from '@merry-shadow/core/signal/slice-motion';

/** One step of every pass that changes something by default. */
const EVERY_PASS = TakeEdits.parse({ passes: PASSES.map(({ name }) => ({ pass: name })) });

/** Middle time of nine runs, milliseconds. */
function medianTime(work: (round: number) => void): number {
  const times = Array.from({ length: 9 }, (_, round) => {
    const begin = performance.now();
    work(round);
    return performance.now() - begin;
  });
  return median(times);
}

/** A minute with every pass: evaluated as a whole, and while a hand is dragged in its middle and the whole body follows. */
export function minuteOfEdits(take: Evaluated): Record<string, number> {
  let first = 0;
  const again = medianTime((round) => {
    const begin = performance.now();
    finishedMotion(take, EVERY_PASS);
    if (round === 0) first = performance.now() - begin;
  });
  const evaluator = new TakeEvaluator(take);
  const { frames, rate } = take.motion;
  const frame = frames >> 1;
  const far = Math.round(rate / 2);
  const base = sliceMotion(evaluator.untimed(EVERY_PASS), frame, frame + 1);
  const [x, y, z] = placeIn(poseAt(base, 0, emptyPose(base.skeleton)), jointIndex(base.skeleton, 'leftHand'));
  const layer = LayerRecord.parse({ kind: 'layer', id: 'hand', name: 'Layer 1' });
  const dragged = (round: number): TakeEdits =>
    withRecord(
      EVERY_PASS,
      keyPose(layer, base, dragPose(base, 'leftHand', [x, y + 0.01 * (round + 1), z], 'body'), frame),
    );
  return {
    'one minute, every pass and plants: first time, ms': first,
    'one minute, every pass and plants: again, ms': again,
    'one minute, one frame while a hand is dragged, ms': medianTime((round) =>
      evaluator.framesIn(dragged(round), [frame, frame + 1]),
    ),
    '… and half a second to both sides, ms': medianTime((round) =>
      evaluator.framesIn(dragged(round), [frame - far, frame + far + 1]),
    ),
    '… and all of it when it is let go, ms': medianTime((round) => evaluator.untimed(dragged(round))),
  };
}

/** Ten minutes with every pass but the timing's: what single changes cost, medians. */
export function tenMinutesOfEdits(take: Evaluated): Record<string, number> {
  const evaluator = new TakeEvaluator(take);
  const passes = recordsOf(EVERY_PASS.records, 'pass');
  // One that says its range, so that a change of it is near by.
  const lift = PassRecord.parse({ kind: 'pass', id: 'lift', pass: 'hip-height', range: [9000, 9060] });
  const withLift = (cm: number): TakeEdits => ({
    ...EVERY_PASS,
    records: [...passes, { ...lift, options: { lift: cm } }],
  });
  evaluator.untimed(withLift(0));
  const plant = evaluator.plants(EVERY_PASS).find(({ from }) => from > 9000);
  const moved = (by: number): TakeEdits => {
    const edits = withLift(0);
    return plant ? withPlant(edits, evaluator.plants(edits), plant.id, { until: plant.until + by }) : edits;
  };
  return {
    'ten minutes, a pass over two seconds changed, ms': medianTime((round) => evaluator.untimed(withLift(round + 1))),
    'ten minutes, a plant moved, ms': medianTime((round) => evaluator.untimed(moved(round + 1))),
    'ten minutes, one frame alone while a plant is dragged, ms': medianTime((round) =>
      evaluator.framesIn(moved(-round - 1), [plant?.until ?? 0, (plant?.until ?? 0) + 1]),
    ),
  };
}
