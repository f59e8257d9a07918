import { nanoid } from 'nanoid';
import { computed } from 'vue';
import { KeyPosesRecord } from '@merry-shadow/core/edits/kinds/key-poses-record';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import { withRecord } from '@merry-shadow/core/edits/take-edits';
import { togglePose } from '@merry-shadow/core/key-poses/key-poses';
import { useOpenTake, type OpenTake } from '../take/open-take';

/** The key poses of an open take: which there are, how the way between them is shown, and what is done with them. */
export function keyPosesOf({ work, evaluation, player, firstObserved, solved, goTo }: OpenTake) {
  const record = computed(() => recordsOf(work.edits.value.records, 'key-poses')[0] ?? null);
  const poses = computed(() => record.value?.poses ?? []);
  const frames = computed(() => solved.value?.motion.frames ?? 0);
  /** The frame that was asked for last, counted from the capture's first one. */
  const here = (): number => Math.max(0, Math.min(player.at() - firstObserved.value, frames.value - 1));

  /** Changes them in one step that can be undone. */
  function change(label: string, fields: Partial<KeyPosesRecord>): void {
    const now = record.value ?? KeyPosesRecord.parse({ kind: 'key-poses', id: nanoid(10) });
    work.changeEdits(label, withRecord(work.edits.value, { ...now, ...fields }));
  }

  return {
    poses,
    between: computed(() => record.value?.between ?? 'captured'),
    frames,
    change,
    /** Proposes poses anew, or adds some to those that are there. @param off metres by which straight ways between them may be off. */
    async propose(off: number, keeping: boolean): Promise<void> {
      const found = await evaluation.proposePoses(work.edits.value, off, keeping ? poses.value : []);
      change(keeping ? 'add key poses' : 'propose key poses', { poses: found });
    },
    toggleHere: (): void => change('key pose here', { poses: togglePose(poses.value, here()) }),
    /** Goes to the next pose or the one before; round the ends. */
    step(by: 1 | -1): void {
      const list = poses.value.map(({ frame }) => frame).sort((a, b) => (a - b) * by);
      const next = list.find((frame) => (frame - here()) * by > 0) ?? list[0];
      if (next !== undefined) goTo(next + firstObserved.value);
    },
  };
}

/** Key poses of the take that is open. @throws Error outside a take's screen. */
export const useKeyPoses = (): ReturnType<typeof keyPosesOf> => keyPosesOf(useOpenTake());
