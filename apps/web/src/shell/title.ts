import { watchEffect, type Ref } from 'vue';

/** Names the window after what is open in it. */
export function useTitle(title: Ref<string> | string): void {
  watchEffect(() => (document.title = `${typeof title === 'string' ? title : title.value} · Merry Shadow`));
}
