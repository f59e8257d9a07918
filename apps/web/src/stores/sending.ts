import { until } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { RefusedError, sendFile, type SentTo } from '../api/client';
import { useProduction } from './production';

/** Files that are sent at the same time. */
const AT_ONCE = 3;

/** What can be sent: a file, the pictures of a folder one behind the other, or a clip with its depth behind it, which begins at a byte. */
export type Footage =
  File | (Blob & { name: string; picturesPerSecond: number }) | (Blob & { name: string; depthFrom: number });

/** A file on its way to the server. */
export interface SentFile {
  id: number;
  name: string;
  size: number;
  sent: number;
  state: 'waiting' | 'sending' | 'failed';
  /** Why it was not brought in. */
  problem: string;
  file: Footage;
  /** Where it is brought in, wherever one has gone meanwhile. */
  to: SentTo;
  /** The production has the same file already: sending it again brings it in once more. */
  known: boolean;
  stop: AbortController;
}

/**
 * Sends any number of files, each with a request of its own, a few at a time. What was brought in leaves the
 * list; what was not stays in it with a sentence until it is sent again or put away, whichever room one is in meanwhile.
 */
export const useSending = defineStore('sending', () => {
  const production = useProduction();
  const files = ref<SentFile[]>([]);
  let newest = 0;
  const open = computed(() => files.value.filter((item) => item.state !== 'failed'));
  /** 0 … 1 over all that is on its way; null when nothing is. */
  const progress = computed(() => {
    if (open.value.length === 0) return null;
    const sum = (of: (item: SentFile) => number): number => open.value.reduce((total, item) => total + of(item), 0);
    return (
      sum((item) => item.sent) /
      Math.max(
        1,
        sum((item) => item.size),
      )
    );
  });

  /** @param replaces a clip whose file it replaces; left out, each becomes a clip of its own in the production that is open. */
  async function add(list: readonly Footage[], replaces?: string): Promise<void> {
    // Right after the page has opened, the server has yet to tell which production that is.
    if (!replaces) await until(() => production.loaded).toBe(true);
    for (const file of list) {
      const pictures = 'picturesPerSecond' in file ? file.picturesPerSecond : undefined;
      const depthFrom = 'depthFrom' in file ? file.depthFrom : undefined;
      const to: SentTo = replaces
        ? { replaces }
        : { production: production.id ?? '', known: 'refuse', pictures, depthFrom };
      const { name, size } = file;
      const stop = new AbortController();
      files.value.push({
        id: ++newest,
        name,
        size,
        sent: 0,
        state: 'waiting',
        problem: '',
        file,
        to,
        known: false,
        stop,
      });
    }
    next();
  }

  function next(): void {
    const sending = files.value.filter((item) => item.state === 'sending').length;
    for (const item of files.value.filter(({ state }) => state === 'waiting').slice(0, AT_ONCE - sending))
      void send(item);
  }

  async function send(item: SentFile): Promise<void> {
    item.state = 'sending';
    try {
      await sendFile(item.file, item.to, (bytes) => (item.sent = bytes), item.stop.signal);
      remove(item.id);
    } catch (error) {
      item.state = 'failed';
      item.problem = (error as Error).message;
      item.known = error instanceof RefusedError && error.code === 'KNOWN_FILE';
    }
    next();
  }

  function remove(id: number): void {
    files.value = files.value.filter((item) => item.id !== id);
  }

  /** Stops a file that is on its way, or one that waits. */
  function cancel(id: number): void {
    const item = files.value.find((other) => other.id === id);
    item?.stop.abort();
    if (item?.state === 'waiting') remove(id);
  }

  function again(id: number): void {
    const item = files.value.find((other) => other.id === id);
    if (!item) return;
    if (item.known && 'production' in item.to) item.to = { ...item.to, known: 'add' };
    Object.assign(item, { state: 'waiting', known: false, sent: 0, problem: '', stop: new AbortController() });
    next();
  }

  return { files, progress, add, cancel, remove, again };
});
