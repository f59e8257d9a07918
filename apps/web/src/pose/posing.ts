import { useLocalStorage } from '@vueuse/core';
import { computed, inject, provide, ref, watch, type InjectionKey } from 'vue';
import { nanoid } from 'nanoid';
import { LayerRecord } from '@merry-shadow/core/edits/kinds/layer-record';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import { withoutRecords, withRecord, type TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { keyAsShown, keyNothing, keyPose } from '@merry-shadow/core/layers/key-pose';
import { dropKey } from '@merry-shadow/core/layers/layer';
import { copyMotion, emptyPose, poseAt, type Motion } from '@merry-shadow/core/motion/motion';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';
import type { MarkName } from '@merry-shadow/core/observe/body';
import { copyPose, mirrorPose, pastePose, type CopiedPose } from '@merry-shadow/core/posing/copied-pose';
import { dragPose, turnPose, type Following } from '@merry-shadow/core/posing/drag-pose';
import { handleOf, placeIn } from '@merry-shadow/core/posing/handles';
import { HINTED_JOINTS } from '@merry-shadow/core/solve/hints/depth-hints';
import { shotAt } from '@merry-shadow/core/solve/shots/shots';
import { sliceMotion } from '@merry-shadow/core/signal/slice-motion';
import type { quat, vec3 } from 'gl-matrix';
import type { OpenTake } from '../take/open-take';
import { draggedAway, limbJointOf, marksOf, nearerThanHips, withDepths } from './told-depth';
import { nextKey } from './layer-edits';

/** A pose that is being made: what it began with, and the edits as they are with it. */
interface Gesture {
  label: string;
  /** The frame of the take, and how it stood. */
  frame: number;
  base: Motion;
  edits: TakeEdits;
  layer: LayerRecord;
  /** The layer as it is posed now. */
  posed: LayerRecord;
  draft: TakeEdits | null;
  /** What it tells the solve instead of making a key: the edits with it. */
  told: ((edits: TakeEdits, frame: number) => TakeEdits) | null;
}

/** Posing an open take by hand: which layer is keyed, what is taken hold of, and what is done with it. Made once by the take's screen. */
export function providePosing(open: OpenTake) {
  const { work, evaluation, player } = open;
  /** Whether the handles are shown on the stage: while the panel shows what poses. */
  const on = computed({
    get: () => open.panel.value === 'pose',
    set: (posing) => (open.panel.value = posing ? 'pose' : 'clean'),
  });
  /** The handle that was taken hold of last, by its joint. */
  const picked = ref<string | null>(null);
  const following = useLocalStorage<Following>('merry-shadow.following', 'limb');
  /** What a drag makes: a key of the layer, or a depth that the take is solved with. */
  const makes = ref<'key' | 'depth'>('key');
  const copied = useLocalStorage<CopiedPose>('merry-shadow.pose', {});
  const chosen = ref<string | null>(null);
  const layers = computed(() => recordsOf(work.edits.value.records, 'layer'));
  /** The layer that is keyed: the chosen one, else the topmost. */
  const layer = computed(() => layers.value.find(({ id }) => id === chosen.value) ?? layers.value.at(-1) ?? null);
  const motion = computed(() => (open.before.value ? null : (open.shown.value?.motion ?? null)));
  const frames = computed(() => motion.value?.frames ?? 0);
  const frame = computed(() => Math.max(0, Math.min(open.frame.value, frames.value - 1)));
  /** The frame that was asked for last, shown yet or not: what keys say of “here” counts for it. */
  const asked = (): number => Math.max(0, Math.min(player.at() - open.firstObserved.value, frames.value - 1));
  watch(on, (posing) => posing && (open.before.value = false));

  const noMotion = computed(() => {
    if (motion.value) return '';
    return open.before.value ? 'Switch “Before edits” off to pose.' : 'There is no motion yet.';
  });
  /** Why no key can be made now; nothing where one can. */
  const noKey = computed(() => {
    if (noMotion.value) return noMotion.value;
    if (layer.value?.muted) return `${layer.value.name} is left out. Use it again, or choose another layer, to pose.`;
    return layer.value?.strength === 0
      ? `${layer.value.name} has a strength of 0: nothing of a pose would be seen.`
      : '';
  });

  let gesture: Gesture | null = null;

  function freshLayer(): LayerRecord {
    const names = new Set(layers.value.map(({ name }) => name));
    let number = layers.value.length + 1;
    while (names.has(`Layer ${number}`)) number++;
    return LayerRecord.parse({ kind: 'layer', id: nanoid(10), name: `Layer ${number}` });
  }

  /** Begins a pose at the shown frame. @param told whether it tells a depth instead of making a key. @returns whether there is something to pose. */
  function begin(label: string, told = false): boolean {
    const whole = motion.value;
    if (!whole || (!told && noKey.value !== '')) return false;
    player.pause();
    const at = frame.value;
    const base = sliceMotion(whole, at, at + 1);
    // What is told is shown by a layer that is not kept.
    const keyed = told ? open.coarse.next(whole.rate) : (layer.value ?? freshLayer());
    gesture = {
      label,
      frame: at,
      base: copyMotion(base),
      edits: work.edits.value,
      layer: keyed,
      posed: keyed,
      draft: null,
      told: null,
    };
    return true;
  }

  /** Shows the frame as it is posed now. */
  function show(posed: Motion): void {
    if (!gesture) return;
    const { layer: keyed, base, frame: at, edits } = gesture;
    gesture.posed = keyPose(keyed, base, posed, at);
    gesture.draft = gesture.posed === keyed ? null : withRecord(edits, gesture.posed);
    const next = gesture.draft ?? edits;
    const early = open.coarse.layer.value;
    evaluation.drag(early && early.id !== keyed.id ? withRecord(next, early) : next, at);
  }

  /** Takes the pose as it is shown. */
  function end(): void {
    const done = gesture;
    gesture = null;
    if (!done?.draft) return evaluation.drag(null, 0);
    if (done.told) return tell(done.label, done.told(done.edits, done.frame), done.posed);
    chosen.value = done.layer.id;
    work.changeEdits(done.label, done.draft);
  }

  /** Tells something to the solve. @param shown what stands in for the solve until then; null for nothing. */
  function tell(label: string, edits: TakeEdits, shown: LayerRecord | null): void {
    work.changeEdits(label, edits);
    if (shown) open.coarse.keep(shown);
  }

  /** Puts back what was there before the pose was begun. */
  function cancel(): void {
    if (!gesture) return;
    gesture = null;
    evaluation.drag(null, 0);
  }

  /** Does all of it at once. */
  function once(label: string, pose: (base: Motion) => Motion): void {
    if (!begin(label) || !gesture) return;
    show(pose(gesture.base));
    end();
  }

  /** The direction from the scene to the camera that filmed it. */
  function cameraAxis(): vec3 | null {
    const shots = open.solved.value?.shots;
    if (!shots) return null;
    const { axes } = shotAt(shots, frame.value).camera;
    return [axes[6], axes[7], axes[8]];
  }

  /** Where a joint comes to be when its mark is moved over the picture, as far from the camera as it was; null where nothing of the camera is known. @param way pixels to the right and down. */
  function placeOfMoved(base: Motion, joint: string, way: readonly [number, number]): vec3 | null {
    const shots = open.solved.value?.shots;
    if (!shots) return null;
    const { position, axes, focal } = shotAt(shots, frame.value).camera;
    const place = placeIn(poseAt(base, 0, emptyPose(base.skeleton)), jointIndex(base.skeleton, joint));
    const far = -[0, 1, 2].reduce((sum, k) => sum + (place[k] - position[k]) * axes[6 + k], 0);
    const [right, up] = [(way[0] * far) / focal, (-way[1] * far) / focal];
    return [0, 1, 2].map((k) => place[k] + right * axes[k] + up * axes[3 + k]) as vec3;
  }

  const title = (joint: string): string => handleOf(joint).title;
  const change = (label: string, next: LayerRecord): void =>
    work.changeEdits(label, withRecord(work.edits.value, next));

  const posing = {
    on,
    picked,
    following,
    makes,
    cameraAxis,
    layers,
    layer,
    frame,
    frames,
    /** Why what is dragged would make nothing now. */
    hindrance: computed(() => (makes.value === 'depth' ? noMotion.value : noKey.value)),
    choose: (id: string): void => void (chosen.value = id),
    /** Takes hold of a handle. @returns whether it can be moved. */
    grip(joint: string, way: 'move' | 'turn'): boolean {
      picked.value = joint;
      const told = makes.value === 'depth';
      const what = told ? 'tell the depth of' : way;
      return begin(`${what} the ${title(joint)}`, told);
    },
    drag(joint: string, place: vec3): void {
      if (!gesture) return;
      if (makes.value === 'key') return show(dragPose(gesture.base, joint, place, following.value));
      const posed = draggedAway(gesture.base, joint, place);
      const camera = cameraAxis();
      if (camera) {
        const told = marksOf(joint).map((mark) => ({
          mark,
          nearer: nearerThanHips(posed, HINTED_JOINTS[mark], camera),
        }));
        gesture.told = (before, at) => withDepths(before, told, at);
      }
      show(posed);
    },
    turn(joint: string, by: quat): void {
      if (gesture) show(turnPose(gesture.base, joint, by));
    },
    /** Takes hold of a mark on the picture. The figure follows it where it is the end or the middle of a limb. */
    gripMark: (mark: MarkName): boolean => limbJointOf(mark) !== null && begin('move a mark', true),
    /** @param way how far the mark was moved, pixels to the right and down. */
    dragMark(mark: MarkName, way: readonly [number, number]): void {
      const joint = limbJointOf(mark);
      const place = gesture && joint && placeOfMoved(gesture.base, joint, way);
      if (gesture && joint && place) show(dragPose(gesture.base, joint, place, 'limb'));
    },
    /** Tells what the mark was moved for. */
    endMark(label: string, told: (edits: TakeEdits) => TakeEdits): void {
      const shown = gesture?.draft ? gesture.posed : null;
      gesture = null;
      tell(label, told(work.edits.value), shown);
    },
    end,
    cancel,
    copy(): void {
      if (motion.value) copied.value = copyPose(motion.value, frame.value);
    },
    hasCopied: computed(() => Object.keys(copied.value).length > 0),
    paste: (): void => once('paste a pose', (base) => pastePose(base, copied.value)),
    pasteMirrored: (): void => once('paste a mirrored pose', (base) => pastePose(base, mirrorPose(copied.value))),
    mirrorHere: (): void => once('mirror the pose', (base) => pastePose(base, mirrorPose(copyPose(base)))),
    addLayer(): void {
      const record = freshLayer();
      change(`add ${record.name}`, record);
      chosen.value = record.id;
    },
    changeLayer: change,
    removeLayer(record: LayerRecord): void {
      work.changeEdits(
        `remove ${record.name}`,
        withoutRecords(work.edits.value, ({ id }) => id === record.id),
      );
    },
    /** Keys the layer here as it is, or as if it were not there. */
    keyHere(release: boolean): void {
      if (!layer.value || !motion.value) return;
      const label = release ? 'let go here' : 'keep the correction here';
      change(label, release ? keyNothing(layer.value, asked()) : keyAsShown(layer.value, motion.value, asked()));
    },
    removeKeyHere(): void {
      if (layer.value) change('remove key', { ...layer.value, keys: dropKey(layer.value.keys, asked()) });
    },
    hasKeyHere: (): boolean => layer.value?.keys.some((key) => key.frame === asked()) ?? false,
    goToKey(by: 1 | -1): void {
      const at = layer.value ? nextKey(layer.value, asked(), by) : null;
      if (at !== null) open.goTo(at + open.firstObserved.value);
    },
  };
  provide(KEY, posing);
  return posing;
}

export type Posing = ReturnType<typeof providePosing>;
const KEY = Symbol('posing') as InjectionKey<Posing>;

/** Posing of the take that is open. @throws Error outside a take's screen. */
export function usePosing(): Posing {
  const posing = inject(KEY);
  if (!posing) throw new Error('No take is open here.');
  return posing;
}
