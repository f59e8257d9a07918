import { defineStore } from 'pinia';
import { computed, ref } from 'vue';

/** Whether what was done is stored: `unsaved` is tried again, `refused` can't be stored as it is. */
export type KeepState = 'saved' | 'saving' | 'unsaved' | 'refused';

const WORDS: Record<KeepState, string> = {
  saved: 'Saved',
  saving: 'Saving …',
  unsaved: 'Not saved yet, trying again',
  refused: 'Not saved',
};

/** Whether the work on the take that is open is stored; nothing while none is open. */
export const useSaving = defineStore('saving', () => {
  const state = ref<KeepState | null>(null);
  const problem = ref('');
  const words = computed(() => state.value && WORDS[state.value]);

  function tell(next: KeepState | null, why = ''): void {
    state.value = next;
    problem.value = why;
  }

  return { state, words, problem, tell };
});
