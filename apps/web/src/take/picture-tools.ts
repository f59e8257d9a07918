import { ElMessage } from 'element-plus';
import { ref, shallowRef, watch, type Ref } from 'vue';
import type { SeenPeople, SeenPerson } from '@merry-shadow/contracts/clip';
import { pointsOf, type TakeSettings } from '@merry-shadow/contracts/take';
import type { TakeState } from '@merry-shadow/contracts/take-work';
import { addTake, fetchPeople } from '../api/client';
import type { Player } from '../play/player';
import { attempt } from '../shell/trouble';

/** Tools that lie over the picture: choosing performers, measuring the camera's pitch. One at a time. */
export function usePictureTools(
  clipId: Ref<string | undefined>,
  player: Player,
  state: Ref<TakeState | null>,
  set: (label: string, settings: Partial<TakeSettings>) => void,
) {
  const people = shallowRef<SeenPeople | null>(null);
  const choosing = ref(false);
  /** Whether a pick says once more who it is. */
  const sayingAgain = ref(false);
  const measuring = ref(false);
  watch(
    () => player.shown.value,
    (frame) => people.value && frame !== people.value.frame && (people.value = null),
  );

  function close(): void {
    people.value = null;
    measuring.value = false;
  }

  function measure(): void {
    player.pause();
    close();
    measuring.value = true;
  }

  function level(degrees: number): void {
    close();
    set('measure camera pitch', { tilt: Number(degrees.toFixed(1)) });
  }

  /** @param again says once more who it is, and keeps what was said in other frames. */
  async function choose(again = false): Promise<void> {
    const clip = clipId.value;
    if (!clip) return;
    close();
    sayingAgain.value = again && state.value?.settings.performer !== null;
    player.pause();
    choosing.value = true;
    await attempt(async () => (people.value = await fetchPeople(clip, player.shown.value)));
    choosing.value = false;
  }

  function pick({ x, y }: SeenPerson): void {
    const point = { frame: people.value?.frame ?? 0, x, y };
    const settings = state.value?.settings;
    close();
    if (!sayingAgain.value || !settings) return set('choose performer', { performer: point, performerAgain: [] });
    const [performer, ...performerAgain] = [
      ...pointsOf(settings.performer, settings.performerAgain).filter(({ frame }) => frame !== point.frame),
      point,
    ];
    set('say again who it is', { performer, performerAgain });
  }

  /** Makes a take for each person who was found: this take follows the first, the others get takes of their own beside it. */
  async function takeForEach(): Promise<void> {
    const { frame, people: found } = people.value ?? { frame: 0, people: [] };
    const [own, clip] = [state.value, clipId.value];
    close();
    if (!own || !clip) return;
    const { name, fromFrame, untilFrame, settings } = own;
    await attempt(async () => {
      for (const [i, { x, y }] of found.entries()) {
        const performer = { frame, x, y };
        if (i === 0) set('choose performer', { performer, performerAgain: [] });
        else
          await addTake(clip, {
            name: `${name} · performer ${i + 1}`.slice(-80),
            fromFrame,
            untilFrame,
            // Another person is of another height.
            settings: { ...settings, performer, performerAgain: [], height: null },
          });
      }
      ElMessage({
        type: 'success',
        message: `${found.length} takes now, one for each performer. Tracked together, the clip is read once.`,
        duration: 6000,
      });
    });
  }

  return { people, choosing, sayingAgain, measuring, choose, pick, takeForEach, measure, level, close };
}
