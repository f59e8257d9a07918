import { defineStore } from 'pinia';
import { ref } from 'vue';
import type { KeepState } from '../edit/edit-keeper';

const WORDS: Record<KeepState, string> = {
  saved: 'Saved',
  saving: 'Saving …',
  unsaved: 'Not saved yet, trying again',
  refused: 'Not saved',
};

/** Whether the work on the take that is open is stored; nothing while none is open. */
export const useSaving = defineStore('saving', () => {
  const state = ref<KeepState | null>(null);
  const words = ref('');
  const problem = ref('');

  function tell(next: KeepState | null, why = ''): void {
    state.value = next;
    words.value = next ? WORDS[next] : '';
    problem.value = why;
  }

  return { state, words, problem, tell };
});
