import { scaleLinear } from 'd3-scale';
import { handlesOf, type CurveKey } from '@merry-shadow/core/curves/curve';
import type { TimeScale } from '../play/time-scale';
import type { CurveDesk } from './curve-desk';
import { chooser, type Channels, type KeyPlace } from './curve-edits';

/** Height of the frames' scale below, and room above and below the curves, pixels. */
const MARGIN = 14;
/** Half a key's size, and how near a press must be, pixels. */
const KEY = 4.5;
/** Half the size of a key seen from afar. */
const DOT = 1.6;
const NEAR = 8;
/** Colours and dashes of the channels, so that colour never stands alone. */
export const CHANNEL_TONES = ['--berry', '--sage', '--ink'] as const;
const DASHES: readonly (readonly number[])[] = [[], [7, 3], [2, 3]];

/** Where values lie: the ends of what is shown, pixels from above. */
export interface ValueScale {
  yOf: (value: number) => number;
  valueAt: (y: number) => number;
  ticks: number[];
}

/** A scale that shows all values of some rows, one number a frame, and all keys in the frames in view. */
export function valueScale(
  rows: readonly ArrayLike<number>[],
  keys: Channels,
  [from, until]: readonly [number, number],
  height: number,
): ValueScale {
  let [low, high] = [Infinity, -Infinity];
  const see = (value: number): void => {
    if (value < low) low = value;
    if (value > high) high = value;
  };
  const [first, last] = [Math.max(0, Math.floor(from)), Math.ceil(until)];
  for (const row of rows) {
    const end = Math.min(last, row.length);
    for (let frame = first; frame < end; frame++) see(row[frame]);
  }
  for (const { frame, value } of keys.flat()) if (frame >= from - 1 && frame <= until + 1) see(value);
  if (!(high >= low)) [low, high] = [0, 1];
  const spare = Math.max((high - low) * 0.08, 0.02);
  const scale = scaleLinear()
    .domain([low - spare, high + spare])
    .range([height - MARGIN, MARGIN]);
  return { yOf: (value) => scale(value), valueAt: (y) => scale.invert(y), ticks: scale.ticks(5) };
}

interface Drawn {
  context: CanvasRenderingContext2D;
  token: (name: string) => string;
  desk: CurveDesk;
  time: TimeScale;
  values: ValueScale;
  height: number;
  /** First observed frame of the clip: what the desk counts from. */
  first: number;
  frame: number;
  /** A box or a line that is being drawn round keys. */
  outline: readonly (readonly [number, number])[];
}

export function drawCurves({ context, token, desk, time, values, height, first, frame, outline }: Drawn): void {
  const width = time.width.value;
  context.clearRect(0, 0, width, height);
  context.font = '11px "Source Sans 3", sans-serif';
  context.textBaseline = 'middle';
  for (const tick of values.ticks) {
    const y = Math.round(values.yOf(tick)) + 0.5;
    context.strokeStyle = token('--edge');
    context.lineWidth = 1;
    line(context, [
      [0, y],
      [width, y],
    ]);
    context.fillStyle = token('--ink-soft');
    context.fillText(`${tick}${desk.unit.value}`, 4, y - 7);
  }
  // Both scales are straight lines: what they are made of is asked for once.
  const [left, apart] = [time.xOf(first + 0.5), time.xOf(first + 1) - time.xOf(first)];
  const middle = (at: number): number => left + at * apart;
  const [ground, rise] = [values.yOf(0), values.yOf(1) - values.yOf(0)];
  const [from, until] = time.span.value;
  const [low, high] = [
    Math.max(0, Math.floor(from) - first - 1),
    Math.min(desk.frames.value, Math.ceil(until) - first + 1),
  ];
  /** No more points than pixels. */
  const step = Math.max(1, Math.floor((high - low) / Math.max(1, width)));
  const rowLine = (valueOf: (at: number) => number): void => {
    context.beginPath();
    for (let at = low; at < high; at += step) context.lineTo(middle(at), ground + rise * valueOf(at));
    context.stroke();
  };
  desk.beside.value.forEach(({ title, rows }, i) => drawBeside(title, rows, i));
  const isChosen = chooser(desk.chosen.value);
  for (const channel of desk.axes.value) {
    const [raw, now, keys] = [desk.captured.value?.[channel], desk.now.value?.[channel], desk.channels.value[channel]];
    if (!raw || !now || !keys) continue;
    context.strokeStyle = token(CHANNEL_TONES[channel]);
    context.setLineDash([]);
    context.lineWidth = 1;
    context.globalAlpha = 0.4;
    rowLine((at) => raw[at]);
    context.globalAlpha = 1;
    context.lineWidth = 2;
    context.setLineDash([...DASHES[channel]]);
    const [begin, end] = keys.length > 0 ? [keys[0].frame, keys[keys.length - 1].frame] : [1, 0];
    const course = desk.courses.value[channel];
    rowLine((at) => (at >= begin && at <= end ? course.at(at) : now[at]));
    context.setLineDash([]);
    drawKeys({ context, token, middle, values, low, high }, keys, channel, isChosen);
  }
  /** Curves of another target, thin, with its name where they come into view. */
  function drawBeside(title: string, rows: readonly ArrayLike<number>[], i: number): void {
    const shown = desk.axes.value.filter((channel) => channel < rows.length);
    for (const channel of shown) {
      context.strokeStyle = token(CHANNEL_TONES[channel]);
      context.setLineDash([...DASHES[channel]]);
      context.globalAlpha = 0.7;
      context.lineWidth = 1;
      rowLine((at) => rows[channel][at]);
    }
    context.setLineDash([]);
    context.globalAlpha = 1;
    const at = Math.round(low + ((high - low) * (i + 1)) / (desk.beside.value.length + 1));
    context.fillStyle = token('--ink');
    if (shown.length > 0) context.fillText(title, middle(at), values.yOf(rows[shown[0]][at] ?? 0) - 8);
  }

  context.strokeStyle = token('--ink');
  context.lineWidth = 1.5;
  line(context, [
    [middle(frame), 0],
    [middle(frame), height],
  ]);
  if (outline.length > 1) {
    context.setLineDash([4, 3]);
    context.strokeStyle = token('--amber');
    context.beginPath();
    for (const [x, y] of outline) context.lineTo(x, y);
    context.closePath();
    context.stroke();
    context.setLineDash([]);
  }
}

/** Keys of a channel; those that are chosen last, with the handles of free ones. From afar, where keys lie on each other, not each is drawn. */
function drawKeys(
  {
    context,
    token,
    middle,
    values,
    low,
    high,
  }: Pick<Drawn, 'context' | 'token' | 'values'> & { middle: (frame: number) => number; low: number; high: number },
  keys: readonly CurveKey[],
  channel: number,
  isChosen: (place: KeyPlace) => boolean,
): void {
  const [others, own] = [new Path2D(), new Path2D()];
  const inView = keys.filter(({ frame }) => frame >= low - 1 && frame <= high + 1).length;
  // Keys that would lie on each other are dots.
  const dense = inView * 2 * KEY > middle(high) - middle(low);
  let drawn = -Infinity;
  keys.forEach((key, i) => {
    if (key.frame < low - 1 || key.frame > high + 1) return;
    const [x, y] = [middle(key.frame), values.yOf(key.value)];
    if (!isChosen({ channel, frame: key.frame })) {
      if (x - drawn < KEY) return;
      drawn = x;
      if (dense) others.rect(x - DOT, y - DOT, 2 * DOT, 2 * DOT);
      else keyShape(others, key.shape, x, y);
      return;
    }
    keyShape(own, key.shape, x, y);
    if (key.shape === 'free') drawHandles(context, token('--ink'), [x, y], handlePlaces(keys, i, middle, values));
  });
  context.lineWidth = 1.8;
  for (const [path, fill, stroke] of [
    [others, dense ? CHANNEL_TONES[channel] : '--sheet', dense ? null : CHANNEL_TONES[channel]],
    [own, '--amber', '--ink'],
  ] as const) {
    context.fillStyle = token(fill);
    context.fill(path);
    if (stroke === null) continue;
    context.strokeStyle = token(stroke);
    context.stroke(path);
  }
}

const handlePlaces = (
  keys: readonly CurveKey[],
  i: number,
  middle: (frame: number) => number,
  { yOf }: ValueScale,
): [number, number][] => handleEnds(keys, i).map((end) => [middle(end.frame), yOf(end.value)]);

function drawHandles(
  context: CanvasRenderingContext2D,
  ink: string,
  from: readonly [number, number],
  ends: readonly (readonly [number, number])[],
): void {
  context.strokeStyle = ink;
  context.fillStyle = ink;
  context.lineWidth = 1;
  for (const end of ends) {
    line(context, [from, end]);
    context.beginPath();
    context.arc(end[0], end[1], 3, 0, 7);
    context.fill();
  }
}

function line(context: CanvasRenderingContext2D, points: readonly (readonly [number, number])[]): void {
  context.beginPath();
  for (const [x, y] of points) context.lineTo(x, y);
  context.stroke();
}

/** Adds a key's shape to a path: round for smooth, a square for straight, a triangle for a step, and a drop with its tip up for free keys. */
function keyShape(path: Path2D, shape: CurveKey['shape'], x: number, y: number): void {
  if (shape === 'straight') path.rect(x - KEY + 0.5, y - KEY + 0.5, KEY * 2 - 1, KEY * 2 - 1);
  else if (shape === 'step') {
    path.moveTo(x - KEY, y - KEY);
    path.lineTo(x + KEY, y);
    path.lineTo(x - KEY, y + KEY);
    path.closePath();
  } else if (shape === 'free') {
    path.moveTo(x, y - KEY * 1.7);
    path.arc(x, y, KEY, -0.6, Math.PI + 0.6);
    path.closePath();
  } else {
    path.moveTo(x + KEY, y);
    path.arc(x, y, KEY, 0, 7);
  }
}

/** Where the handles of a key end, frames and values. */
function handleEnds(
  keys: readonly CurveKey[],
  i: number,
): { side: 'before' | 'after'; frame: number; value: number }[] {
  const { before, after } = handlesOf(keys, i);
  const { frame, value } = keys[i];
  return [
    { side: 'before', frame: frame - before[0], value: value + before[1] },
    { side: 'after', frame: frame + after[0], value: value + after[1] },
  ];
}

/** What lies under a place: a handle of a chosen free key, or a key. */
export function underPlace(
  desk: CurveDesk,
  xOf: (frame: number) => number,
  { yOf }: ValueScale,
  x: number,
  y: number,
): { place: KeyPlace; side: 'before' | 'after' | null } | null {
  const near = (frame: number, value: number): boolean => Math.hypot(xOf(frame) - x, yOf(value) - y) < NEAR;
  const isChosen = chooser(desk.chosen.value);
  for (const channel of desk.axes.value) {
    const keys = desk.channels.value[channel] ?? [];
    for (let i = 0; i < keys.length; i++) {
      const place = { channel, frame: keys[i].frame };
      if (keys[i].shape !== 'free' || !isChosen(place)) continue;
      const end = handleEnds(keys, i).find(({ frame, value }) => near(frame, value));
      if (end) return { place, side: end.side };
    }
  }
  for (const channel of desk.axes.value)
    for (const key of desk.channels.value[channel] ?? [])
      if (near(key.frame, key.value)) return { place: { channel, frame: key.frame }, side: null };
  return null;
}
