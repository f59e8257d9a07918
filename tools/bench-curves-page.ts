import { computed, ref, shallowRef } from 'vue';
import { CurveCourse, type CurveKey } from '@merry-shadow/core/curves/curve';
import type { CurveDesk } from '../apps/web/src/curves/curve-desk';
import { drawCurves, valueScale } from '../apps/web/src/curves/draw-curves';
import { themeTokens } from '../apps/web/src/play/canvas';
import { useTimeScale } from '../apps/web/src/play/time-scale';

/** Three channels of a target, keyed over all frames, as the desk has them. */
function deskOf(frames: number, keyed: number, seed: number): CurveDesk {
  const value = (frame: number, channel: number): number =>
    40 * Math.sin(frame / (23 + 7 * channel + seed)) + 8 * Math.sin(frame / 3.1 + channel);
  const rows = [0, 1, 2].map((channel) => Float64Array.from({ length: frames }, (_, f) => value(f, channel)));
  const channels = rows.map((row): CurveKey[] =>
    Array.from({ length: keyed }, (_, i) => {
      const frame = Math.round((i * (frames - 1)) / (keyed - 1));
      return { frame, value: row[frame], shape: 'smooth' };
    }),
  );
  return {
    unit: ref('°'),
    frames: ref(frames),
    axes: ref([0, 1, 2]),
    captured: shallowRef(rows),
    now: shallowRef(rows),
    beside: ref([]),
    channels: shallowRef(channels),
    chosen: ref([]),
    courses: computed(() => channels.map((keys) => new CurveCourse(keys))),
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
    const desks = Array.from({ length: Math.ceil(curves / 3) }, (_, i) => deskOf(frames, keyed, i));
    const time = useTimeScale(ref(frames));
    time.width.value = canvas.width;
    const draw = (): void => {
      const token = themeTokens();
      for (const desk of desks) {
        const { height } = canvas;
        const values = valueScale(desk.now.value ?? [], desk.channels.value, time.span.value, height);
        drawCurves({ context, token, desk, time, values, height, first: 0, frame: 100, outline: [] });
      }
    };
    /** Reading a point back waits until all is on the canvas. */
    const painted = (): void => void context.getImageData(0, 0, 1, 1);
    const whole = median(draw);
    const wholePainted = median(draw, painted);
    time.zoom(100, 5000);
    while (time.span.value[1] - time.span.value[0] < 300) time.zoom(-1, 5000);
    return { whole, wholePainted, near: median(draw) };
  },
});
