import { useLocalStorage } from '@vueuse/core';

/** Hints that are told once, where something is done for the first time. */
export const ONCE_HINTS = {
  footage:
    'Each clip is looked at by itself, and what would cost quality is told on its card. Open a clip to mark its good parts as takes.',
  clip: 'Set in and out about a good part (I and O), and make a take of it. Takes are tracked in the room Takes.',
  take: 'Play with Space, step with ← and →. Dark on the strip is what the tracker was unsure of. Snags are a good place to begin.',
  clean: 'Passes run from above to below; each can be left out with its eye. B shows the motion before and after.',
  pose: 'Drag a slip on the figure: a layer with a key is made by itself, and everything can be undone.',
  snags:
    'S goes to the next snag, E takes what is proposed, Shift + E leaves it. Or mend all at once, and look at what is left.',
} as const;
export type OnceHint = keyof typeof ONCE_HINTS;

/** Which hints were read, and whether any are told at all; kept in the browser. */
export function useOnceHints() {
  const kept = useLocalStorage<{ read: OnceHint[]; off: boolean }>('merry-shadow.hints', { read: [], off: false });
  return {
    isTold: (hint: OnceHint): boolean => !kept.value.off && !kept.value.read.includes(hint),
    read: (hint: OnceHint): void => void (kept.value = { ...kept.value, read: [...kept.value.read, hint] }),
    switchOff: (): void => void (kept.value = { ...kept.value, off: true }),
    tellAgain: (): void => void (kept.value = { read: [], off: false }),
  };
}
