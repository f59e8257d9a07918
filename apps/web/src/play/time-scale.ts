import { scaleLinear } from 'd3-scale';
import { computed, ref, watch, type Ref } from 'vue';

/** The fewest frames in view: single frames are some 50 pixels wide then. */
const FEWEST = 16;
/** What one step of zooming leaves of the frames in view. */
const STEP = 0.8;

/** The time that strip and charts share: which frames are in view, and where each lies. @param frames of the whole clip. */
export function useTimeScale(frames: Ref<number>) {
  const span = ref<[number, number]>([0, Math.max(1, frames.value)]);
  const width = ref(0);
  watch(frames, (count) => (span.value = [0, Math.max(1, count)]));
  const scale = computed(() => scaleLinear().domain(span.value).range([0, width.value]));
  const whole = computed(() => span.value[1] - span.value[0] >= frames.value);

  /** Shows some frames, as far as there are any. */
  function show(from: number, count: number): void {
    const shown = Math.min(Math.max(1, frames.value), Math.max(Math.min(FEWEST, frames.value), count));
    const first = Math.min(frames.value - shown, Math.max(0, from));
    span.value = [first, first + shown];
  }

  /** Comes nearer (steps above 0) or goes away; a frame stays where it is. */
  function zoom(steps: number, around: number): void {
    const [from, until] = span.value;
    const count = (until - from) * STEP ** steps;
    show(around - ((around - from) / (until - from)) * count, count);
  }

  function pan(by: number): void {
    const [from, until] = span.value;
    show(from + by, until - from);
  }

  /** Brings a frame into view, no farther than it takes. */
  function reveal(frame: number): void {
    const [from, until] = span.value;
    if (frame < from) pan(frame - from);
    else if (frame + 1 > until) pan(frame + 1 - until);
  }

  return {
    span,
    width,
    whole,
    /** Where a frame begins, pixels. */
    xOf: (frame: number): number => scale.value(frame),
    /** The frame at a place, within the clip. */
    frameAt: (x: number): number => Math.min(frames.value - 1, Math.max(0, Math.floor(scale.value.invert(x)))),
    /** Takes as much room as there is, pixels. */
    resize: (pixels: number): void => void (width.value = pixels),
    zoom,
    pan,
    reveal,
    fit: () => show(0, frames.value),
  };
}
export type TimeScale = ReturnType<typeof useTimeScale>;

/** The wheel comes nearer to what is under the pointer; sideways, or with Shift, it moves along. @param x where the pointer is, pixels. */
export function turnWheel(time: TimeScale, event: WheelEvent, x: number): void {
  const [from, until] = time.span.value;
  const sideways = event.shiftKey ? event.deltaY || event.deltaX : event.deltaX;
  if (Math.abs(sideways) > Math.abs(event.shiftKey ? 0 : event.deltaY))
    return time.pan((Math.sign(sideways) * (until - from)) / 12);
  time.zoom(-Math.sign(event.deltaY), from + (x / Math.max(1, time.width.value)) * (until - from));
}
