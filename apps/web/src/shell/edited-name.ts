import { ref, watch, type Ref } from 'vue';

/** A name while it is edited. @param rename told the new name when editing is done; a name that is empty or the same is put back. */
export function useEditedName(
  name: () => string,
  rename: (name: string) => void,
): { text: Ref<string>; done: () => void } {
  const text = ref(name());
  watch(name, (now) => (text.value = now));
  function done(): void {
    const wanted = text.value.trim();
    if (wanted === '' || wanted === name()) text.value = name();
    else rename(wanted);
  }
  return { text, done };
}
