import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import type { ClipView } from '@merry-shadow/contracts/clip';
import type { TakeView } from '@merry-shadow/contracts/take';
import { fetchProduction } from '../api/client';

const BUSY_MS = 500;
const QUIET_MS = 4000;

/** Clips and takes as the server has them; asked for more often while work is under way. */
export const useProduction = defineStore('production', () => {
  const clips = ref<ClipView[]>([]);
  const takes = ref<TakeView[]>([]);
  /** What holds up all work, as a sentence. */
  const trouble = ref<string | null>(null);
  const loaded = ref(false);
  const offline = ref(false);
  let timer: ReturnType<typeof setTimeout> | undefined;
  /** Counts the rounds begun: only the newest goes on. */
  let round = 0;

  const busy = computed(
    () =>
      clips.value.some((clip) => clip.state === 'waiting' || clip.state === 'preparing') ||
      takes.value.some((take) => take.run?.state === 'waiting' || take.run?.state === 'running'),
  );

  async function refresh(): Promise<void> {
    try {
      const view = await fetchProduction();
      clips.value = view.clips;
      takes.value = view.takes;
      trouble.value = view.trouble;
      loaded.value = true;
      offline.value = false;
    } catch {
      offline.value = true;
    }
  }

  /** Fetches at once, and from then on at the pace that the work asks for. */
  async function watch(): Promise<void> {
    clearTimeout(timer);
    const own = ++round;
    await refresh();
    if (own === round) timer = setTimeout(() => void watch(), busy.value ? BUSY_MS : QUIET_MS);
  }

  function unwatch(): void {
    round++;
    clearTimeout(timer);
  }

  const clip = (id: string): ClipView | undefined => clips.value.find((item) => item.id === id);
  const take = (id: string): TakeView | undefined => takes.value.find((item) => item.id === id);
  const takesOf = (clipId: string): TakeView[] => takes.value.filter((item) => item.clipId === clipId);
  return { clips, takes, trouble, loaded, offline, busy, watch, unwatch, clip, take, takesOf };
});
