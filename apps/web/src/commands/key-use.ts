/** Keys that standard controls use themselves, by role or element (WAI-ARIA Authoring Practices). */
const USED: readonly [selector: string, keys: readonly string[] | 'typing'][] = [
  ['textarea, [contenteditable=""], [contenteditable="true"]', 'typing'],
  ['input:not([type="checkbox"]):not([type="radio"]):not([type="range"]):not([type="button"])', 'typing'],
  ['button, summary, [role="button"], [role="tab"], [role="menuitem"], [role="option"]', [' ', 'Enter']],
  ['a[href]', ['Enter']],
  ['[role="tab"]', ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown']],
  ['input[type="checkbox"], [role="checkbox"], [role="switch"]', [' ', 'Enter']],
  ['input[type="radio"], [role="radio"]', [' ', 'ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown']],
  [
    'input[type="range"], [role="slider"], [role="separator"]',
    ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Home', 'End', 'PageUp', 'PageDown'],
  ],
  // Closed choices take letters, too.
  ['select, [role="combobox"], [role="listbox"], [role="menu"], [role="tree"]', 'typing'],
];

/** Whether the control that has the focus uses a key itself, so that no shortcut may take it. */
export function isUsedByControl(
  target: EventTarget | null,
  event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey'>,
): boolean {
  if (!(target instanceof Element)) return false;
  return USED.some(([selector, keys]) => {
    if (!target.closest(selector)) return false;
    if (keys !== 'typing') return keys.includes(event.key);
    // A field has its own undo, copy and paste; other controls leave those alone.
    return !(event.ctrlKey || event.metaKey) || target.closest('input, textarea, [contenteditable]') !== null;
  });
}
