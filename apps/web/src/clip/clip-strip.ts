import type { Judgement } from '@merry-shadow/core/judge/judge';
import { spanOfLook, type Looks } from '@merry-shadow/core/judge/looks';
import { BAD } from '@merry-shadow/core/judge/judge';
import { JUDGES } from '@merry-shadow/core/judge/registry';
import type { TakeView } from '@merry-shadow/contracts/take';
import type { TimeScale } from '../play/time-scale';

/** Heights of what lies below each other, pixels. */
export const PICTURES = 44;
export const WAVE = 26;
export const JUDGED_ROW = 9;
export const TAKE_ROW = 20;
export const AXIS = 16;
/** The most rows of takes; more share the last one. */
const MOST_TAKE_ROWS = 4;
/** A hand is near the end of a take within so many pixels. */
const NEAR = 7;

export interface StripContent {
  pictures: HTMLImageElement | null;
  /** Width of the clip's picture against its height. */
  aspect: number;
  wave: Uint8Array | null;
  looks: Looks | null;
  takes: readonly TakeView[];
  offered: readonly { from: number; until: number }[];
  chosen: string | null;
  cuts: readonly number[];
  frames: number;
  rate: number;
  frame: number;
  /** A judgement that is pointed at. */
  pointed: Judgement | null;
}

export interface StripLayout {
  wave: number | null;
  judged: { title: string; top: number; badness: (number | null)[] }[];
  takes: number;
  takeRows: Map<string, number>;
  height: number;
}

/** Where everything lies. Rows of judgements that are fine all through share no room. */
export function clipStripLayout({ wave, looks, takes }: Pick<StripContent, 'wave' | 'looks' | 'takes'>): StripLayout {
  let top = AXIS + PICTURES + 4;
  const waveAt = wave ? top : null;
  if (wave) top += WAVE + 4;
  const judged: StripLayout['judged'] = [];
  for (const judge of looks ? JUDGES : []) {
    const badness = judge.badness(looks as Looks);
    if (!badness.some((value) => (value ?? 0) >= 0.25)) continue;
    judged.push({ title: judge.title, top, badness });
    top += JUDGED_ROW + 1;
  }
  top += 5;
  const takeRows = rowsOf(takes);
  return {
    wave: waveAt,
    judged,
    takes: top,
    takeRows,
    height: top + Math.max(1, ...[...takeRows.values()].map((row) => row + 1)) * TAKE_ROW,
  };
}

/** Takes that overlap lie below each other. */
function rowsOf(takes: readonly TakeView[]): Map<string, number> {
  const ends: number[] = [];
  const rows = new Map<string, number>();
  for (const take of [...takes].sort((a, b) => a.fromFrame - b.fromFrame)) {
    const free = ends.findIndex((end) => end <= take.fromFrame);
    const row = Math.min(MOST_TAKE_ROWS - 1, free < 0 ? ends.length : free);
    ends[row] = take.untilFrame;
    rows.set(take.id, row);
  }
  return rows;
}

/** The take at a place, and which end of it a hand would move. */
export function takeAt(
  layout: StripLayout,
  takes: readonly TakeView[],
  time: TimeScale,
  x: number,
  y: number,
): { take: TakeView; end: 'from' | 'until' | null } | null {
  if (y < layout.takes) return null;
  const row = Math.floor((y - layout.takes) / TAKE_ROW);
  for (const take of [...takes].reverse()) {
    if (layout.takeRows.get(take.id) !== row) continue;
    const [from, until] = [time.xOf(take.fromFrame), time.xOf(take.untilFrame)];
    if (x < from - NEAR || x > until + NEAR) continue;
    const end = Math.abs(x - from) < NEAR ? 'from' : Math.abs(x - until) < NEAR ? 'until' : null;
    return { take, end };
  }
  return null;
}

/** Draws a clip's strip. */
export function drawClipStrip(
  context: CanvasRenderingContext2D,
  token: (name: string) => string,
  time: TimeScale,
  layout: StripLayout,
  content: StripContent,
): void {
  const width = time.width.value;
  context.clearRect(0, 0, width, layout.height);
  drawAxis(context, token, time, content);
  drawPictures(context, token, time, content);
  if (content.wave && layout.wave !== null) drawWave(context, token, time, layout.wave, content.wave, content.rate);
  drawJudged(context, token, time, layout, content.looks);
  drawTakes(context, token, time, layout, content);
  context.fillStyle = token('--berry');
  for (const cut of content.cuts) context.fillRect(Math.round(time.xOf(cut)) - 1, AXIS, 2, PICTURES);
  const { pointed } = content;
  if (pointed) {
    const [a, b] = [time.xOf(pointed.from), time.xOf(pointed.until)];
    context.strokeStyle = token('--berry');
    context.lineWidth = 2;
    context.strokeRect(a, AXIS, Math.max(4, b - a), layout.takes - AXIS - 4);
  }
  const x = time.xOf(content.frame + 0.5);
  context.fillStyle = token('--amber');
  context.fillRect(x - 1, 4, 2, layout.height);
  context.beginPath();
  context.arc(x, 6, 5, 0, 2 * Math.PI);
  context.fill();
}

function drawAxis(
  context: CanvasRenderingContext2D,
  token: (name: string) => string,
  time: TimeScale,
  { rate }: StripContent,
): void {
  const [from, until] = time.span.value;
  const perPixel = (until - from) / rate / Math.max(1, time.width.value);
  const step = [0.1, 0.2, 0.5, 1, 2, 5, 10, 30, 60, 120, 300].find((seconds) => seconds / perPixel >= 56) ?? 600;
  context.fillStyle = token('--ink-soft');
  context.font = '11px "Source Sans 3 Variable", sans-serif';
  for (let at = Math.ceil(from / rate / step) * step; at <= until / rate; at += step) {
    const x = time.xOf(at * rate);
    context.fillRect(x, 9, 1, 5);
    context.fillText(`${Number(at.toFixed(1))} s`, x + 3, 12);
  }
}

function drawPictures(
  context: CanvasRenderingContext2D,
  token: (name: string) => string,
  time: TimeScale,
  { pictures, aspect, frames }: StripContent,
): void {
  context.fillStyle = token('--screen');
  const [left, right] = [Math.max(0, time.xOf(0)), Math.min(time.width.value, time.xOf(frames))];
  context.fillRect(left, AXIS, right - left, PICTURES);
  if (!pictures?.complete || pictures.naturalHeight === 0) return;
  context.save();
  context.beginPath();
  context.rect(left, AXIS, right - left, PICTURES);
  context.clip();
  // So many pictures, from evenly spread middles of the clip: each place shows the nearest one.
  const count = Math.max(1, Math.round(pictures.naturalWidth / (pictures.naturalHeight * aspect)));
  const each = pictures.naturalWidth / count;
  const wide = (each / pictures.naturalHeight) * PICTURES;
  for (let x = left; x < right; x += wide) {
    const part = time.frameAt(x + wide / 2) / frames;
    const index = Math.min(count - 1, Math.floor(part * count));
    context.drawImage(pictures, index * each, 0, each, pictures.naturalHeight, x, AXIS, wide, PICTURES);
  }
  context.restore();
}

function drawWave(
  context: CanvasRenderingContext2D,
  token: (name: string) => string,
  time: TimeScale,
  top: number,
  wave: Uint8Array,
  rate: number,
): void {
  context.fillStyle = token('--ink-faint');
  const middle = top + WAVE / 2;
  for (let x = 0; x < time.width.value; x++) {
    const [from, until] = [time.frameAt(x), time.frameAt(x + 1)].map((frame) => Math.floor((frame / rate) * 100));
    let most = 0;
    for (let i = from; i <= Math.max(from, until) && i < wave.length; i++) most = Math.max(most, wave[i]);
    const tall = Math.max(1, (Math.sqrt(most / 255) * WAVE) / 2);
    context.fillRect(x, middle - tall, 1, 2 * tall);
  }
}

function drawJudged(
  context: CanvasRenderingContext2D,
  token: (name: string) => string,
  time: TimeScale,
  { judged }: StripLayout,
  looks: Looks | null,
): void {
  if (!looks) return;
  for (const { top, badness } of judged)
    badness.forEach((value, look) => {
      const [from, until] = spanOfLook(looks, look).map((frame) => time.xOf(frame));
      context.globalAlpha = 1;
      context.fillStyle = token('--sheet-deep');
      context.fillRect(from, top, until - from + 0.5, JUDGED_ROW);
      if (value === null || value < 0.1) return;
      context.globalAlpha = value >= BAD ? 0.45 + 0.55 * value : 0.5 * value;
      context.fillStyle = token('--berry');
      // A lower bar says the same without colour.
      const tall = Math.max(2, Math.round(JUDGED_ROW * Math.min(1, 0.3 + 0.7 * value)));
      context.fillRect(from, top + JUDGED_ROW - tall, until - from + 0.5, tall);
    });
  context.globalAlpha = 1;
}

function drawTakes(
  context: CanvasRenderingContext2D,
  token: (name: string) => string,
  time: TimeScale,
  layout: StripLayout,
  { takes, chosen, offered }: StripContent,
): void {
  context.font = '600 12px "Source Sans 3 Variable", sans-serif';
  for (const { from, until } of offered) {
    context.setLineDash([4, 3]);
    context.strokeStyle = token('--amber');
    context.lineWidth = 1;
    const x = time.xOf(from);
    context.strokeRect(x + 0.5, layout.takes + 0.5, time.xOf(until) - x - 1, TAKE_ROW - 5);
    context.setLineDash([]);
  }
  for (const take of takes) {
    const top = layout.takes + (layout.takeRows.get(take.id) ?? 0) * TAKE_ROW;
    const [x, end] = [time.xOf(take.fromFrame), time.xOf(take.untilFrame)];
    const own = take.id === chosen;
    context.fillStyle = own ? token('--amber-glow') : token('--amber-wash');
    context.fillRect(x, top, end - x, TAKE_ROW - 4);
    context.fillStyle = token('--amber');
    for (const grip of [x, end - 3]) context.fillRect(grip, top, 3, TAKE_ROW - 4);
    if (end - x < 30) continue;
    context.save();
    context.beginPath();
    context.rect(Math.max(0, x) + 4, top, end - Math.max(0, x) - 8, TAKE_ROW);
    context.clip();
    context.fillStyle = own ? '#2a1d08' : token('--ink');
    context.fillText(`${take.best ? '★ ' : ''}${take.name}`, Math.max(0, x) + 8, top + 12);
    context.restore();
  }
}
