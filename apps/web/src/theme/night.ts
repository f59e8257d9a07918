import { defineStore } from 'pinia';
import { ref, watchEffect } from 'vue';

const KEY = 'merry-shadow night';

/** Day or night: the person's choice, else the computer's. */
export const useNight = defineStore('night', () => {
  const stored = localStorage.getItem(KEY);
  const night = ref(stored === null ? matchMedia('(prefers-color-scheme: dark)').matches : stored === 'yes');
  watchEffect(() => document.documentElement.classList.toggle('night', night.value));
  function toggle(): void {
    night.value = !night.value;
    localStorage.setItem(KEY, night.value ? 'yes' : 'no');
  }
  return { night, toggle };
});
