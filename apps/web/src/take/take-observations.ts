import { shallowRef, watch, type Ref } from 'vue';
import { observationColumns, type ObservationGroup, type Observations } from '@merry-shadow/core/observe/observations';
import { fetchObservations } from '../api/client';
import { attempt } from '../shell/trouble';

/** Frames of hands and face that are fetched at once: the marks of a face are most of what was seen. */
const WINDOW = 600;
const FINE: readonly ObservationGroup[] = ['hands', 'face'];

/**
 * What the newest capture of a take saw: the body of all frames, hands and face of the window that is looked at.
 * @param runId the capture; null for none. @param frame counted from its first frame. @param fine whether hands and face are shown.
 */
export function useTakeObservations(
  takeId: string,
  runId: Ref<string | null>,
  frame: Ref<number>,
  fine: Ref<boolean>,
): Readonly<Ref<Observations | null>> {
  const observations = shallowRef<Observations | null>(null);
  /** Windows that were fetched or are on their way. */
  let fetched = new Set<number>();

  watch(
    runId,
    async (run) => {
      observations.value = null;
      fetched = new Set();
      if (!run) return;
      await attempt(async () => {
        const seen = await fetchObservations(takeId, ['body']);
        if (run === runId.value) observations.value = seen;
      });
    },
    { immediate: true },
  );

  watch(
    [observations, () => Math.floor(frame.value / WINDOW), fine],
    async ([seen, window]) => {
      if (!fine.value || !seen || window < 0 || fetched.has(window)) return;
      const from = window * WINDOW;
      const groups = FINE.filter((group) => seen[group as 'hands' | 'face'] !== null);
      if (from >= seen.frames || groups.length === 0) return;
      fetched.add(window);
      const run = runId.value;
      const more = await fetchObservations(takeId, groups, [from, from + WINDOW]).catch(() => null);
      if (run !== runId.value || !observations.value) return;
      // It is tried again when it is looked at again.
      if (!more) return void fetched.delete(window);
      fill(observations.value, more, from);
      observations.value = { ...observations.value };
    },
    { immediate: true },
  );
  return observations;
}

/** Puts marks of hands and face into observations. Changes their columns. */
function fill(target: Observations, part: Observations, at: number): void {
  const columns = new Map(observationColumns(part).map((column) => [column.name, column]));
  for (const { name, width, data } of observationColumns(target)) {
    const column = columns.get(name);
    if (column && (name.includes('Hand.') || name.startsWith('face.')) && !name.endsWith('presence'))
      data.set(column.data, at * width);
  }
}
