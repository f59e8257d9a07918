import { ref, shallowRef } from 'vue';
import type { CurveKey } from '@merry-shadow/core/curves/curve';
import type { CurveDesk, CurveLine } from '../apps/web/src/curves/curve-desk';
import type { KeyPlace } from '../apps/web/src/curves/curve-edits';
import { drawHeld, drawStill, valueScale, type CurveCanvas } from '../apps/web/src/curves/draw-curves';
import { themeTokens } from '../apps/web/src/play/canvas';
import { useTimeScale } from '../apps/web/src/play/time-scale';

/** The desk with three channels of some targets, keyed over all frames. */
function deskOf(targets: number, frames: number, keyed: number): CurveDesk {
  const lines = Array.from({ length: targets * 3 }, (_, i): CurveLine => {
    const target = Math.floor(i / 3);
    return { target, axis: i % 3, title: `part ${target}, ${i % 3}` };
  });
  const value = (frame: number, { axis, target }: CurveLine): number =>
    40 * Math.sin(frame / (23 + 7 * axis + target)) + 8 * Math.sin(frame / 3.1 + axis);
  const rows = lines.map((line) => Float64Array.from({ length: frames }, (_, f) => value(f, line)));
  const keys = rows.map((row): CurveKey[] =>
    Array.from({ length: keyed }, (_, i) => {
      const frame = Math.round((i * (frames - 1)) / (keyed - 1));
      return { frame, value: row[frame], shape: 'smooth' };
    }),
  );
  return {
    unit: ref('°'),
    frames: ref(frames),
    lines: ref(lines),
    shown: ref([...lines.keys()]),
    captured: shallowRef(rows),
    now: shallowRef(rows),
    kept: shallowRef(keys),
    channels: shallowRef(keys),
    chosen: shallowRef<KeyPlace[]>([]),
  } as unknown as CurveDesk;
}

/** Median time of a redraw, milliseconds. @param after what is waited for afterwards. */
function median(draw: () => void, after: () => void = () => undefined): number {
  const times = Array.from({ length: 25 }, () => {
    const begin = performance.now();
    draw();
    after();
    return performance.now() - begin;
  });
  return times.sort((a, b) => a - b)[times.length >> 1];
}

Object.assign(window, {
  redraws([curves, frames, keyed]: [number, number, number]) {
    const canvas = document.querySelector('canvas') as HTMLCanvasElement;
    const context = canvas.getContext('2d') as CanvasRenderingContext2D;
    const desk = deskOf(Math.ceil(curves / 3), frames, keyed);
    const time = useTimeScale(ref(frames));
    time.width.value = canvas.width;
    const sheet = (): CurveCanvas => {
      const { height } = canvas;
      const values = valueScale(desk.now.value ?? [], desk.channels.value, time.span.value, height);
      return { context, token: themeTokens(), desk, time, values, height, first: 0 };
    };
    const held = (on: CurveCanvas): void => drawHeld(on, { frame: 100, outline: [] });
    const draw = (): void => {
      const on = sheet();
      drawStill(on);
      held(on);
    };
    /** Reading a point back waits until all is on the canvas. */
    const painted = (): void => void context.getImageData(0, 0, 1, 1);
    const whole = median(draw);
    const wholePainted = median(draw, painted);
    // All keys of one line are dragged.
    const fixed = sheet();
    const dragged = median(() => {
      const list = [...desk.kept.value];
      list[4] = list[4].map((key) => ({ ...key, value: key.value + Math.random() }));
      Object.assign(desk.channels, { value: list });
      Object.assign(desk.chosen, { value: list[4].map(({ frame }) => ({ channel: 4, frame })) });
      held(fixed);
    });
    Object.assign(desk.chosen, { value: [] });
    time.zoom(100, 5000);
    while (time.span.value[1] - time.span.value[0] < 300) time.zoom(-1, 5000);
    return { whole, wholePainted, dragged, near: median(draw) };
  },
});
