import { computed, nextTick, ref, shallowRef } from 'vue';
import { PassRecord } from '@merry-shadow/core/edits/kinds/pass-record';
import { PlantRecord } from '@merry-shadow/core/edits/kinds/plant-record';
import { NO_EDITS, type TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { averageProportions, humanoidSkeleton } from '@merry-shadow/core/motion/humanoid';
import { emptyPose, poseAt, restMotion, type Motion } from '@merry-shadow/core/motion/motion';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';
import { TakeEvaluator } from '@merry-shadow/core/edits/evaluate/take-evaluator';
import type { Snag } from '@merry-shadow/core/snags/snag';
import type { OpenTake } from '../src/take/open-take';
import type { TrialResult } from '../src/take/evaluation-protocol';
import { useCoarseStep } from '../src/take/coarse-step';
import { provideMending } from '../src/take/mending';
import { providePosing } from '../src/pose/posing';
import { withHiddenMark, withMovedMark } from '../src/pose/told-marks';

jest.mock('vue', () => ({ ...jest.requireActual<object>('vue'), provide: () => undefined }));

const FRAMES = 30;
const FIRST = 100;

/** An open take with what posing and mending need of it: somebody who stands in T-pose, with edits that are evaluated as they are made. */
function takeAt(frame: number) {
  const motion = restMotion(humanoidSkeleton(averageProportions(1.7)), FRAMES, 30);
  const evaluator = new TakeEvaluator({ motion, bridged: new Uint8Array(FRAMES), contacts: null });
  const edits = shallowRef<TakeEdits>(NO_EDITS);
  const shown = shallowRef({ motion });
  const labels: string[] = [];
  const drags: (number | null)[] = [];
  const snags = shallowRef<Snag[]>([]);
  const asked = ref(frame);
  const trial = { result: { records: [], snags: [], changed: null } as TrialResult };
  const camera = { position: [0, 1, 4], axes: [1, 0, 0, 0, 1, 0, 0, 0, 1], focal: 800 };
  const solvedFrom = ref('[]');
  const coarse = useCoarseStep(
    computed(() => JSON.stringify(edits.value.records)),
    solvedFrom,
  );
  const open = {
    panel: ref('pose'),
    before: ref(false),
    selected: ref<string | null>(null),
    coarse,
    firstObserved: ref(FIRST),
    frame: asked,
    shown,
    solved: shallowRef({ motion, shots: [{ from: 0, until: FRAMES, camera }] }),
    player: { pause: () => undefined, at: () => asked.value + FIRST },
    goTo: (wanted: number) => (asked.value = wanted - FIRST),
    evaluation: {
      snags,
      drag: (next: TakeEdits | null, at: number) => drags.push(next ? at : null),
      tryMend: () => Promise.resolve(trial.result),
    },
    work: {
      edits,
      changeEdits: (label: string, next: TakeEdits) => {
        labels.push(label);
        edits.value = next;
        shown.value = { motion: evaluator.untimed(next) };
      },
    },
  } as unknown as OpenTake;
  return { open, edits, labels, drags, snags, asked, trial, shown, coarse, solvedFrom, evaluator };
}

const placeOf = ({ motion }: { motion: Motion }, joint: string, frame: number): number[] => {
  const { positions } = poseAt(motion, frame, emptyPose(motion.skeleton));
  const at = jointIndex(motion.skeleton, joint) * 3;
  return [...positions.subarray(at, at + 3)];
};

describe('posing by hand', () => {
  it('shows a frame while it is dragged, and makes one key of a new layer in the end', () => {
    const { open, edits, labels, drags, shown } = takeAt(12);
    const posing = providePosing(open);
    const [x, y, z] = placeOf(shown.value, 'leftHand', 12);
    expect(posing.grip('leftHand', 'move')).toBe(true);
    posing.drag('leftHand', [x - 0.1, y - 0.1, z]);
    posing.drag('leftHand', [x - 0.1, y - 0.2, z + 0.1]);
    expect(drags).toEqual([12, 12]);
    expect(edits.value).toBe(NO_EDITS);
    posing.end();
    expect(labels).toEqual(['move the left hand']);
    expect(edits.value.records).toMatchObject([{ kind: 'layer', name: 'Layer 1', keys: [{ frame: 12 }] }]);
    placeOf(shown.value, 'leftHand', 12).forEach((value, k) =>
      expect(value).toBeCloseTo([x - 0.1, y - 0.2, z + 0.1][k], 3),
    );
    expect(placeOf(shown.value, 'leftHand', 29)).toEqual([x, y, z]);
  });

  it('leaves everything as it was when it is broken off, or nothing was moved', () => {
    const { open, edits, labels, drags } = takeAt(3);
    const posing = providePosing(open);
    posing.grip('head', 'turn');
    posing.turn('head', [0, Math.sin(0.2), 0, Math.cos(0.2)]);
    posing.cancel();
    posing.grip('head', 'turn');
    posing.end();
    expect([labels, edits.value]).toEqual([[], NO_EDITS]);
    expect(drags.at(-1)).toBeNull();
  });

  it('says why nothing can be posed', () => {
    const { open, edits } = takeAt(3);
    const posing = providePosing(open);
    posing.addLayer();
    const [layer] = posing.layers.value;
    posing.changeLayer('leave out', { ...layer, muted: true });
    expect(posing.hindrance.value).toContain('is left out');
    expect(posing.grip('leftHand', 'move')).toBe(false);
    posing.changeLayer('weaken', { ...layer, muted: false, strength: 0 });
    expect(posing.hindrance.value).toContain('strength of 0');
    // A depth needs no layer.
    posing.makes.value = 'depth';
    expect(posing.hindrance.value).toBe('');
    posing.makes.value = 'key';
    open.before.value = true;
    expect(posing.hindrance.value).toContain('Before edits');
    expect(edits.value.records).toHaveLength(1);
  });

  it('tells a depth against the hips, along the line of the camera, and keeps no layer', () => {
    const { open, edits, labels, shown } = takeAt(7);
    const posing = providePosing(open);
    posing.makes.value = 'depth';
    const [x, y, z] = placeOf(shown.value, 'rightHand', 7);
    posing.grip('rightHand', 'move');
    posing.drag('rightHand', [x + 0.15, y, z + 0.25]);
    posing.end();
    expect(labels).toEqual(['tell the depth of the right hand']);
    expect(edits.value.records).toMatchObject([{ kind: 'depth-hint', mark: 'rightWrist', frame: 7 }]);
    const [record] = edits.value.records;
    expect(record.kind === 'depth-hint' && record.nearer).toBeCloseTo(0.25, 2);
  });

  it('shows what was told until the take is solved with it, in the frames about it, too', () => {
    const { open, edits, shown, coarse, solvedFrom, evaluator } = takeAt(15);
    const posing = providePosing(open);
    const [x, y, z] = placeOf(shown.value, 'leftHand', 15);
    expect(posing.gripMark('leftWrist')).toBe(true);
    // Forty pixels down, some four metres away, with a focal length of 800.
    posing.dragMark('leftWrist', [-8, 40]);
    posing.endMark('move a mark', (before) => withMovedMark(before, 'leftWrist', 15, 100, 240));
    expect(edits.value.records).toMatchObject([{ kind: 'moved-mark', frame: 15 }]);
    const layer = coarse.layer.value;
    if (!layer) throw new Error('Nothing is shown.');
    const early = { motion: evaluator.untimed({ ...NO_EDITS, records: [layer] }) };
    const far = 4 - z;
    const at = placeOf(early, 'leftHand', 15);
    expect(at[0] - x).toBeCloseTo((-8 * far) / 800, 2);
    expect(at[1] - y).toBeCloseTo((-40 * far) / 800, 2);
    expect(placeOf(early, 'leftHand', 12)[1]).toBeLessThan(y - 0.05);
    expect(placeOf(early, 'leftHand', 0)).toEqual([x, y, z]);
    // Another one comes on top of it.
    expect(coarse.next(30)).toBe(layer);
    solvedFrom.value = JSON.stringify(edits.value.records);
    expect(coarse.layer.value).toBeNull();
  });

  it('lets no figure follow marks that lie on no limb', () => {
    const { open, edits, coarse } = takeAt(15);
    const posing = providePosing(open);
    expect(posing.gripMark('nose')).toBe(false);
    posing.endMark('move a mark', (before) => withMovedMark(before, 'nose', 15, 100, 240));
    expect(edits.value.records).toHaveLength(1);
    expect(coarse.layer.value).toBeNull();
  });

  it('keeps, lets go and removes keys where one is, and goes from key to key', () => {
    const { open, edits, asked } = takeAt(5);
    const posing = providePosing(open);
    posing.grip('hips', 'move');
    posing.drag('hips', [0, 0.7, 0.05]);
    posing.end();
    const frames = (): number[] => posing.layer.value?.keys.map(({ frame }) => frame) ?? [];
    asked.value = 9;
    posing.keyHere(false);
    asked.value = 14;
    posing.keyHere(true);
    expect(frames()).toEqual([5, 9, 14]);
    expect(posing.layer.value?.keys[2].root).toEqual([0, 0, 0]);
    posing.goToKey(1);
    expect(asked.value).toBe(5);
    expect(posing.hasKeyHere()).toBe(true);
    posing.removeKeyHere();
    expect(frames()).toEqual([9, 14]);
    posing.removeLayer(posing.layers.value[0]);
    expect(edits.value.records).toEqual([]);
  });

  it('shows its handles while the panel shows what poses', () => {
    const { open } = takeAt(0);
    const posing = providePosing(open);
    expect(posing.on.value).toBe(true);
    posing.on.value = false;
    expect(open.panel.value).toBe('clean');
  });
});

describe('going through snags', () => {
  const snag = (from: number, kind: Snag['kind'] = 'pop'): Snag => ({
    kind,
    joint: 'leftHand',
    from,
    until: from + 4,
    severity: 20,
    unit: '°',
    mends: [],
  });
  const pass = PassRecord.parse({ kind: 'pass', id: 'p', pass: 'remove-pops' });

  it('goes there, shows what is proposed, takes it, and goes on', async () => {
    const { open, edits, labels, snags, asked, trial, shown } = takeAt(0);
    const mending = provideMending(open);
    snags.value = [snag(4), snag(12)];
    const frames = { ...shown.value.motion, root: shown.value.motion.root.map((value) => value + 1) };
    trial.result = { records: [pass], snags: [snag(12)], changed: { at: 0, frames } };
    await mending.choose(snags.value[0]);
    expect(asked.value).toBe(5);
    expect(mending.pale.value?.root[0]).toBeCloseTo(shown.value.motion.root[0] + 1, 5);
    mending.take();
    expect(labels).toEqual(['mend pop']);
    expect(edits.value.records).toEqual([pass]);
    await nextTick();
    expect(mending.chosen.value).toEqual(snag(12));
    expect(asked.value).toBe(13);
  });

  it('takes it and goes to where it can be changed', async () => {
    const { open, edits, snags, trial } = takeAt(0);
    const mending = provideMending(open);
    snags.value = [snag(4)];
    const held = PlantRecord.parse({ kind: 'plant', id: 'h', part: 'leftHeel', from: 2, until: 20 });
    for (const [records, panel, selected] of [
      [[pass], 'clean', null],
      [[held], 'clean', 'h'],
    ] as const) {
      open.panel.value = 'snags';
      trial.result = { records: [...records], snags: [], changed: null };
      await mending.choose(snags.value[0]);
      mending.adapt();
      expect(edits.value.records.at(-1)).toEqual(records[0]);
      expect([open.panel.value, open.selected.value]).toEqual([panel, selected]);
    }
  });

  it('takes nothing where nothing was found, and leaves a snag for good', async () => {
    const { open, edits, snags } = takeAt(0);
    const mending = provideMending(open);
    snags.value = [snag(4)];
    await mending.choose(snags.value[0]);
    mending.take();
    expect(edits.value.records).toEqual([]);
    expect(mending.pale.value).toBeNull();
    mending.dismiss();
    expect(edits.value.records).toMatchObject([{ kind: 'dismissed', snag: 'pop', joint: 'leftHand', from: 4 }]);
  });

  it('steps through one kind, and says what mending all of it came to', async () => {
    const { open, edits, labels, snags, trial } = takeAt(0);
    const mending = provideMending(open);
    snags.value = [snag(2), snag(8, 'slide'), snag(20)];
    mending.kind.value = 'pop';
    mending.step(1);
    mending.step(1);
    expect(mending.chosen.value).toEqual(snag(20));
    mending.step(1);
    expect(mending.chosen.value).toEqual(snag(2));
    trial.result = { records: [pass], snags: [snag(8, 'slide'), snag(20)], changed: null };
    await mending.mendAll();
    expect(labels).toEqual(['mend all: pop']);
    expect(mending.summary.value).toBe('1 of 2 are gone. 1 is left for you to judge.');
    trial.result = { records: [], snags: snags.value, changed: null };
    await mending.mendAll();
    expect(mending.summary.value).toContain('Nothing was found');
    expect(edits.value.records).toHaveLength(1);
  });

  it('shows the capture as a pale figure beside, if that is wanted', () => {
    const { open } = takeAt(0);
    const mending = provideMending(open);
    expect(mending.pale.value).toBeNull();
    mending.capture.value = true;
    expect(mending.pale.value).toBe(open.solved.value?.motion);
    open.before.value = true;
    expect(mending.pale.value).toBeNull();
  });
});

describe('marks that are told', () => {
  it('stand in the place of what was said of the same mark in that frame', () => {
    const once = withMovedMark(NO_EDITS, 'leftWrist', 5, 10, 20);
    const again = withMovedMark(once, 'leftWrist', 5, 11, 21);
    expect(again.records).toMatchObject([{ kind: 'moved-mark', frame: 5, x: 11, y: 21 }]);
    expect(withMovedMark(again, 'leftWrist', 6, 0, 0).records).toHaveLength(2);
    const hidden = withHiddenMark(again, 'leftWrist', 9);
    expect(withMovedMark(hidden, 'leftWrist', 9, 1, 1).records.map(({ kind }) => kind)).toEqual([
      'moved-mark',
      'moved-mark',
    ]);
  });

  it('are hidden in one span, frame by frame', () => {
    const spans = [9, 10, 8].reduce((edits, frame) => withHiddenMark(edits, 'leftKnee', frame), NO_EDITS);
    expect(spans.records).toMatchObject([{ kind: 'hidden-mark', from: 8, until: 11 }]);
    expect(withHiddenMark(spans, 'leftKnee', 20).records).toHaveLength(2);
    expect(withHiddenMark(spans, 'rightKnee', 9).records).toHaveLength(2);
  });
});
