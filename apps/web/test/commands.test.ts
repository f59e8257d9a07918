/** @jest-environment jsdom */
import { createPinia, setActivePinia } from 'pinia';
import { keyWords, type Command } from '../src/commands/command';
import { useCommands } from '../src/commands/commands-store';
import { isUsedByControl } from '../src/commands/key-use';

jest.mock('vue', () => ({ ...jest.requireActual<object>('vue'), onUnmounted: () => undefined }));
beforeEach(() => {
  localStorage.clear();
  document.body.innerHTML = '';
  setActivePinia(createPinia());
});

const done: string[] = [];
const command = (id: string, keys: string[], more: Partial<Command> = {}): Command => ({
  id,
  title: `Do ${id}`,
  group: 'Test',
  keys,
  run: () => void done.push(id),
  ...more,
});

/** Presses a key on an element, as the window would hear it. @returns what was done. */
function press(init: KeyboardEventInit, html = '<p></p>'): string[] {
  done.length = 0;
  document.body.innerHTML = html;
  const target = document.querySelector('[data-here]') ?? document.body.firstElementChild;
  const event = new KeyboardEvent('keydown', { bubbles: true, cancelable: true, ...init });
  target?.dispatchEvent(event);
  useCommands().press(event);
  return [...done];
}

describe('commands', () => {
  it('are run by their keys, with just the modifiers that they name', () => {
    const commands = useCommands();
    commands.add([
      command('play', ['Space']),
      command('on', ['ArrowRight']),
      command('far', ['Shift+ArrowRight']),
      command('undo', ['$mod+z']),
    ]);
    expect(press({ key: ' ', code: 'Space' })).toEqual(['play']);
    expect(press({ key: 'ArrowRight' })).toEqual(['on']);
    expect(press({ key: 'ArrowRight', shiftKey: true })).toEqual(['far']);
    expect(press({ key: 'z', ctrlKey: true })).toEqual(['undo']);
    expect(press({ key: 'z' })).toEqual([]);
  });

  it('do nothing when they can’t be done, and are gone with what brought them', () => {
    const commands = useCommands();
    const gone = commands.add([command('never', ['n'], { enabled: () => false })]);
    expect(press({ key: 'n' })).toEqual([]);
    commands.run('never');
    expect(done).toEqual([]);
    gone();
    expect(commands.all).toEqual([]);
  });

  it('get other keys, which whoever had them loses, and which stay over a reload', () => {
    const [a, b] = [command('a', ['a']), command('b', ['b'])];
    const commands = useCommands();
    commands.add([a, b]);
    commands.setKeys(a, 'b');
    expect([commands.keysOf(a), commands.keysOf(b)]).toEqual([['b'], []]);
    expect(press({ key: 'b' })).toEqual(['a']);
    expect(press({ key: 'a' })).toEqual([]);
    commands.resetKeys();
    expect(press({ key: 'b' })).toEqual(['b']);
  });

  it('tell their keys as people read them', () => {
    const commands = useCommands();
    expect(commands.hint(command('x', ['Shift+ArrowLeft']))).toBe('Do x (Shift + ←)');
    expect(commands.hint(command('x', []))).toBe('Do x');
    expect(['$mod+z', 'Space', '+', 'Home'].map(keyWords)).toEqual(['Ctrl + Z', 'Space', '+', 'Home']);
  });

  it('keep still while a dialog is open', () => {
    useCommands().add([command('play', ['Space'])]);
    const dialog = '<div class="el-overlay"><div role="dialog"><p data-here></p></div></div>';
    expect(press({ key: ' ', code: 'Space' }, dialog)).toEqual([]);
    expect(
      press({ key: ' ', code: 'Space' }, dialog.replace('el-overlay"', 'el-overlay" style="display: none;"')),
    ).toEqual(['play']);
  });
});

describe('keys that a control uses itself', () => {
  const used = (html: string, key: string, more: Partial<KeyboardEvent> = {}): boolean => {
    document.body.innerHTML = html;
    return isUsedByControl(document.querySelector('[data-here]'), { key, ctrlKey: false, metaKey: false, ...more });
  };

  it.each([
    ['a text field', '<input data-here>', ['o', ' ', 'ArrowLeft', 'Delete'], []],
    ['a button', '<button><i data-here></i></button>', [' ', 'Enter'], ['ArrowLeft', 'o']],
    ['a closed choice', '<div role="combobox" data-here tabindex="0"></div>', ['o', ' ', 'ArrowDown'], []],
    ['a slider', '<div role="slider" data-here></div>', ['ArrowLeft', 'Home'], ['o', 'b', ' ']],
    ['a check box', '<input type="checkbox" data-here>', [' '], ['o', 'ArrowLeft']],
    ['a link', '<a href="/" data-here></a>', ['Enter'], [' ', 'o']],
    ['nothing', '<div data-here></div>', [], ['o', ' ', 'Enter']],
  ])('%s', (_, html, taken, free) => {
    for (const key of taken) expect([key, used(html, key)]).toEqual([key, true]);
    for (const key of free) expect([key, used(html, key)]).toEqual([key, false]);
  });

  it('leaves Ctrl Z to text fields, and takes it everywhere else', () => {
    expect(used('<input data-here>', 'z', { ctrlKey: true })).toBe(true);
    expect(used('<div role="combobox" data-here></div>', 'z', { ctrlKey: true })).toBe(false);
    expect(used('<button data-here></button>', 'z', { ctrlKey: true })).toBe(false);
  });
});
