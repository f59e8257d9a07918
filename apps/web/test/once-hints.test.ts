import { nextTick } from 'vue';
import { useOnceHints } from '../src/shell/once-hints';

describe('hints for the first time', () => {
  it('are told once, not at all where they are switched off, and again when that is asked for', async () => {
    const hints = useOnceHints();
    expect([hints.isTold('pose'), hints.isTold('clean')]).toEqual([true, true]);
    hints.read('pose');
    await nextTick();
    expect([hints.isTold('pose'), hints.isTold('clean')]).toEqual([false, true]);
    hints.switchOff();
    expect([hints.isTold('pose'), hints.isTold('clean')]).toEqual([false, false]);
    hints.tellAgain();
    expect([hints.isTold('pose'), hints.isTold('clean')]).toEqual([true, true]);
  });
});
