import type { Component } from 'vue';

/** Something that a person can do: menus, buttons, tooltips, keys, the list of keys and the palette all go by it. */
export interface Command {
  /** Never changes: keys that a person chose are kept under it. */
  id: string;
  /** What it does, as a button says it. */
  title: string;
  /** Where it stands in the list of keys. */
  group: string;
  /** Keys that it has unless a person chooses others, as tinykeys writes them: "Shift+ArrowLeft"; "$mod" is Ctrl, or ⌘ on a Mac. */
  keys: readonly string[];
  icon?: Component;
  enabled?: () => boolean;
  run: () => void;
}

export const isEnabled = ({ enabled }: Command): boolean => enabled?.() ?? true;

/**
 * Makes the commands of a group.
 * @param of what they are about: begins their ids. @param enabled when they are possible, where a command does not say otherwise.
 */
export const commandsOf =
  (of: string, group: string, enabled: () => boolean) =>
  (id: string, title: string, keys: readonly string[], run: () => void, more: Partial<Command> = {}): Command => ({
    id: `${of}.${id}`,
    title,
    group,
    keys,
    run,
    enabled,
    ...more,
  });

const NAMES: Record<string, string> = {
  ' ': 'Space',
  Space: 'Space',
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  $mod: 'Ctrl',
  Control: 'Ctrl',
  Escape: 'Esc',
};

/** Keys as people read them: "Shift + ←". */
export function keyWords(keys: string): string {
  // The last sign may be a plus itself.
  const parts = keys.split(/\b\+/);
  return parts.map((key) => NAMES[key] ?? (key.length === 1 ? key.toUpperCase() : key)).join(' + ');
}
