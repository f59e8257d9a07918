import { ref } from 'vue';
import { emptyLooks, type Looks } from '@merry-shadow/core/judge/looks';
import type { TakeView } from '@merry-shadow/contracts/take';
import { clipStripLayout, drawClipStrip, TAKE_ROW, takeAt, type StripContent } from '../src/clip/clip-strip';
import { withEndAt, withIn, withOut } from '../src/play/in-out';
import { useTimeScale } from '../src/play/time-scale';

const take = (id: string, fromFrame: number, untilFrame: number): TakeView =>
  ({ id, name: id, fromFrame, untilFrame, best: false }) as TakeView;

/** Ten looks at a clip of 100 frames; feet are out of it from the sixth on, and all else is fine. */
function looks(): Looks {
  const all = <T>(value: T): T[] => Array<T>(10).fill(value);
  return {
    ...emptyLooks({ width: 1280, height: 720, rate: 10, frames: 100 }),
    at: Array.from({ length: 10 }, (_, i) => i * 10),
    people: all(1),
    tall: all(600),
    outside: {
      head: all(0),
      hands: all(0),
      legs: all(0),
      feet: [...Array<number>(5).fill(0), ...Array<number>(5).fill(1)],
    },
    bodyLight: all(120),
    pose: all(1),
    face: all(150),
    camera: all(0),
    bitsPerPixel: 0.1,
    rate: 30,
  };
}
const time = useTimeScale(ref(100));
time.resize(500);

describe('the strip of a clip', () => {
  it('has a row for sound and for what is bad, and none for what is fine', () => {
    const bare = clipStripLayout({ wave: null, looks: null, takes: [] });
    expect([bare.wave, bare.judged]).toEqual([null, []]);
    const full = clipStripLayout({ wave: new Uint8Array(10), looks: looks(), takes: [] });
    expect(full.wave).not.toBeNull();
    expect(full.judged.map(({ title }) => title)).toEqual(['Whole body in the picture']);
    expect(full.takes).toBeGreaterThan(bare.takes);
  });

  it('puts takes that overlap below each other, and others beside', () => {
    const takes = [take('a', 0, 40), take('b', 30, 60), take('c', 45, 90)];
    const { takeRows, height, takes: top } = clipStripLayout({ wave: null, looks: null, takes });
    expect([...takeRows]).toEqual([
      ['a', 0],
      ['b', 1],
      ['c', 0],
    ]);
    expect(height).toBe(top + 2 * TAKE_ROW);
  });

  it('tells which take is under the hand, and which end of it', () => {
    const takes = [take('a', 10, 50), take('b', 20, 60)];
    const layout = clipStripLayout({ wave: null, looks: null, takes });
    const at = (x: number, row: number) => takeAt(layout, takes, time, x, layout.takes + row * TAKE_ROW + 5);
    expect(at(51, 0)).toMatchObject({ take: { id: 'a' }, end: 'from' });
    expect(at(248, 0)).toMatchObject({ take: { id: 'a' }, end: 'until' });
    expect(at(150, 1)).toMatchObject({ take: { id: 'b' }, end: null });
    expect(at(20, 0)).toBeNull();
    expect(takeAt(layout, takes, time, 150, 3)).toBeNull();
  });

  it('draws what is bad higher, each take once, and the place in time last', () => {
    const drawn: { name: string; args: unknown[] }[] = [];
    const context = new Proxy({} as CanvasRenderingContext2D, {
      get: (target, name: string) =>
        name in target ? Reflect.get(target, name) : (...args: unknown[]) => void drawn.push({ name, args }),
      set: (target, name, value) => Reflect.set(target, name, value),
    });
    const content: StripContent = {
      pictures: null,
      aspect: 16 / 9,
      wave: new Uint8Array(400).fill(200),
      looks: looks(),
      takes: [take('a', 0, 60), take('b', 50, 100)],
      offered: [{ from: 10, until: 30 }],
      chosen: 'a',
      cuts: [40],
      frames: 100,
      rate: 30,
      frame: 25,
      pointed: null,
    };
    const layout = clipStripLayout(content);
    drawClipStrip(context, (token) => token, time, layout, content);
    const [row] = layout.judged;
    const bars = drawn.filter(
      ({ name, args }) => name === 'fillRect' && (args[1] as number) > row.top && (args[1] as number) < row.top + 9,
    );
    // Half of the looks are bad: a bar in their row for each.
    expect(bars).toHaveLength(5);
    const names = drawn.filter(({ name }) => name === 'fillText').map(({ args }) => args[0]);
    expect(names.filter((text) => text === 'a' || text === 'b')).toEqual(['a', 'b']);
    expect(drawn.at(-1)?.name).toBe('fill');
    expect(drawn.filter(({ name }) => name === 'arc')[0].args[0]).toBe(time.xOf(25.5));
  });
});

describe('in and out points', () => {
  it('give way to each other when they are set', () => {
    expect(withIn([10, 50], 20)).toEqual([20, 50]);
    expect(withIn([10, 50], 70)).toEqual([70, 71]);
    expect(withOut([10, 50], 30)).toEqual([10, 31]);
    expect(withOut([10, 50], 4)).toEqual([4, 5]);
  });

  it('stop at each other and at the clip when they are dragged', () => {
    expect(withEndAt([10, 50], 'from', 80, 100)).toEqual([49, 50]);
    expect(withEndAt([10, 50], 'until', 3, 100)).toEqual([10, 11]);
    expect(withEndAt([10, 50], 'until', 120, 100)).toEqual([10, 100]);
  });
});
