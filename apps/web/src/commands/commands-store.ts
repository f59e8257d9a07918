import { useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { matchKeyBindingPress, parseKeybinding } from 'tinykeys';
import { computed, onUnmounted, ref, shallowRef } from 'vue';
import { isEnabled, keyWords, type Command } from './command';
import { isUsedByControl } from './key-use';

/** All commands that are there now, and the keys that each has. */
export const useCommands = defineStore('commands', () => {
  const lists = shallowRef<ReadonlyMap<symbol, readonly Command[]>>(new Map());
  /** Keys that a person chose, by command. */
  const chosen = useLocalStorage<Record<string, string[]>>('merry-shadow.keys', {});
  /** Which of the lists is open over everything. */
  const sheet = ref<'keys' | 'palette' | null>(null);
  const all = computed(() => [...lists.value.values()].flat());

  /** Adds commands. @returns what takes them away. */
  function add(commands: readonly Command[]): () => void {
    const key = Symbol('commands');
    lists.value = new Map([...lists.value, [key, commands]]);
    return () => {
      lists.value = new Map([...lists.value].filter(([other]) => other !== key));
    };
  }

  const find = (id: string): Command | undefined => all.value.find((command) => command.id === id);
  const keysOf = ({ id, keys }: Command): readonly string[] => chosen.value[id] ?? keys;

  /** Title and keys, for a tooltip. */
  function hint(command: Command): string {
    const [keys] = keysOf(command);
    return keys ? `${command.title} (${keyWords(keys)})` : command.title;
  }

  /** Who has these keys already. */
  const holderOf = (keys: string): Command | undefined => all.value.find((command) => keysOf(command).includes(keys));

  /** Gives a command other keys; who had them loses them. */
  function setKeys(command: Command, keys: string): void {
    const holder = holderOf(keys);
    const next = { ...chosen.value, [command.id]: [keys] };
    if (holder && holder.id !== command.id) next[holder.id] = keysOf(holder).filter((other) => other !== keys);
    chosen.value = next;
  }

  function resetKeys(): void {
    chosen.value = {};
  }

  function run(id: string): void {
    const command = find(id);
    if (command && isEnabled(command)) command.run();
  }

  /** Runs the command whose keys were pressed, unless a control or an open dialog uses them. */
  function press(event: KeyboardEvent): void {
    if (event.defaultPrevented || event.isComposing || isUsedByControl(event.target, event)) return;
    if (document.querySelector('.el-overlay:not([style*="display: none"]) [role="dialog"]')) return;
    const command = all.value.find((item) =>
      keysOf(item).some((keys) => matchKeyBindingPress(event, parseKeybinding(keys)[0])),
    );
    if (!command || !isEnabled(command)) return;
    event.preventDefault();
    command.run();
  }

  return { all, chosen, sheet, add, find, keysOf, hint, holderOf, setKeys, resetKeys, run, press };
});

/** Makes commands available as long as a component is there. */
export function provideCommands(commands: readonly Command[]): void {
  onUnmounted(useCommands().add(commands));
}
