import { scaleLinear } from 'd3-scale';
import { handlesOf, type CurveKey } from '@merry-shadow/core/curves/curve';
import type { TimeScale } from '../play/time-scale';
import type { CurveDesk } from './curve-desk';
import { chooser, type Channels, type KeyPlace } from './curve-edits';
import { rowOf, traceRow } from './curve-rows';

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

/** What curves are drawn with. */
export interface CurveCanvas {
  context: CanvasRenderingContext2D;
  token: (name: string) => string;
  desk: CurveDesk;
  time: TimeScale;
  values: ValueScale;
  height: number;
  /** First observed frame of the clip: what the desk counts from. */
  first: number;
}

/** Where frames and values lie: both scales are straight lines. */
interface View {
  /** Frames in view: the first, and the one behind the last. */
  run: readonly [low: number, high: number];
  /** Place of the middle of frame 0, and pixels from one to the next. */
  across: readonly [left: number, apart: number];
  /** Height of 0, and pixels a unit. */
  up: readonly [ground: number, rise: number];
}

function viewOf({ desk, time, values, first }: CurveCanvas): View {
  const [from, until] = time.span.value;
  return {
    run: [Math.max(0, Math.floor(from) - first - 1), Math.min(desk.frames.value, Math.ceil(until) - first + 1)],
    across: [time.xOf(first + 0.5), time.xOf(first + 1) - time.xOf(first)],
    up: [values.yOf(0), values.yOf(1) - values.yOf(0)],
  };
}

/** The lines of which keys are chosen: these are drawn apart from what stays. */
export const chosenLines = (desk: CurveDesk): Set<number> => new Set(desk.chosen.value.map(({ channel }) => channel));

/** Draws what stays while keys are dragged and while it is played: values, and the lines without chosen keys. */
export function drawStill(sheet: CurveCanvas): void {
  const { context, token, desk, time, values, height } = sheet;
  const width = time.width.value;
  prepare(context, width, height);
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
  const view = viewOf(sheet);
  const held = chosenLines(desk);
  for (const channel of desk.shown.value)
    if (!held.has(channel)) drawLine(sheet, view, channel, desk.kept.value[channel]);
  nameLines(sheet, view);
}

/** Draws what goes along: the lines with chosen keys, the shown frame, and a box or a line that is being drawn round keys. */
export function drawHeld(
  sheet: CurveCanvas,
  { frame, outline }: { frame: number; outline: readonly (readonly [number, number])[] },
): void {
  const { context, token, desk, time, height } = sheet;
  prepare(context, time.width.value, height);
  const view = viewOf(sheet);
  const held = chosenLines(desk);
  for (const channel of desk.shown.value)
    if (held.has(channel)) drawLine(sheet, view, channel, desk.channels.value[channel]);
  const [left, apart] = view.across;
  context.strokeStyle = token('--ink');
  context.lineWidth = 1.5;
  line(context, [
    [left + frame * apart, 0],
    [left + frame * apart, height],
  ]);
  if (outline.length < 2) return;
  context.setLineDash([4, 3]);
  context.strokeStyle = token('--amber');
  context.beginPath();
  for (const [x, y] of outline) context.lineTo(x, y);
  context.closePath();
  context.stroke();
  context.setLineDash([]);
}

function prepare(context: CanvasRenderingContext2D, width: number, height: number): void {
  context.clearRect(0, 0, width, height);
  context.font = '11px "Source Sans 3", sans-serif';
  context.textBaseline = 'middle';
}

/** One line with its keys: pale as it was captured, above that as it is. Lines of other targets than the first are thin. */
function drawLine(sheet: CurveCanvas, view: View, channel: number, keys: readonly CurveKey[]): void {
  const { context, token, desk } = sheet;
  const [raw, now] = [desk.captured.value?.[channel], desk.now.value?.[channel]];
  if (!raw || !now) return;
  const { target, axis } = desk.lines.value[channel];
  const row = rowOf(keys, now);
  const stroke = (values: Float64Array): void => {
    context.beginPath();
    traceRow(context, values, view.run, view.across, view.up);
    context.stroke();
  };
  context.strokeStyle = token(CHANNEL_TONES[axis]);
  context.lineWidth = 1;
  if (row !== raw) {
    context.globalAlpha = 0.4;
    stroke(raw);
  }
  context.globalAlpha = target === 0 ? 1 : 0.7;
  context.lineWidth = target === 0 ? 2 : 1;
  // Dashes tell axes apart without colours; of other targets each line has its name.
  context.setLineDash(target === 0 ? [...DASHES[axis]] : []);
  stroke(row);
  context.setLineDash([]);
  context.globalAlpha = 1;
  drawKeys(sheet, view, keys, channel);
}

/** Names on the lines of other targets, each at a place of its own. */
function nameLines({ context, token, desk }: CurveCanvas, { run: [low, high], across, up }: View): void {
  const others = desk.shown.value.filter((channel) => desk.lines.value[channel].target > 0);
  context.fillStyle = token('--ink');
  // A rim of paper keeps lines that cross from the letters.
  context.strokeStyle = token('--paper');
  context.lineWidth = 4;
  context.lineJoin = 'round';
  others.forEach((channel, i) => {
    const at = Math.min(high - 1, Math.round(low + ((high - low) * (i + 1)) / (others.length + 1)));
    const value = desk.now.value?.[channel]?.[at];
    if (value === undefined) return;
    const place = [across[0] + across[1] * at, up[0] + up[1] * value - 8] as const;
    context.strokeText(desk.lines.value[channel].title, ...place);
    context.fillText(desk.lines.value[channel].title, ...place);
  });
}

/** Keys of a channel; those that are chosen last, with the handles of free ones. From afar, where keys lie on each other, not each is drawn. */
function drawKeys(
  { context, token, desk, values }: CurveCanvas,
  view: View,
  keys: readonly CurveKey[],
  channel: number,
): void {
  const isChosen = chooser(desk.chosen.value);
  const [low, high] = view.run;
  const middle = (frame: number): number => view.across[0] + view.across[1] * frame;
  const tone = CHANNEL_TONES[desk.lines.value[channel].axis];
  const [others, own] = [new Path2D(), new Path2D()];
  const inView = keys.filter(({ frame }) => frame >= low - 1 && frame <= high + 1).length;
  // Keys that would lie on each other are dots.
  const dense = inView * 2 * KEY > middle(high) - middle(low);
  let drawn = -Infinity;
  keys.forEach((key, i) => {
    if (key.frame < low - 1 || key.frame > high + 1) return;
    const [x, y] = [middle(key.frame), values.yOf(key.value)];
    if (!isChosen({ channel, frame: key.frame })) {
      if (x - drawn < (dense ? 2 : 1) * KEY) return;
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
    [others, dense ? tone : '--sheet', dense ? null : tone],
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
  for (const channel of desk.shown.value) {
    const keys = desk.channels.value[channel] ?? [];
    for (let i = 0; i < keys.length; i++) {
      const place = { channel, frame: keys[i].frame };
      if (keys[i].shape !== 'free' || !isChosen(place)) continue;
      const end = handleEnds(keys, i).find(({ frame, value }) => near(frame, value));
      if (end) return { place, side: end.side };
    }
  }
  for (const channel of desk.shown.value)
    for (const key of desk.channels.value[channel] ?? [])
      if (near(key.frame, key.value)) return { place: { channel, frame: key.frame }, side: null };
  return null;
}
