import { kindOf, recordsOf } from '@merry-shadow/core/edits/registry';
import type { TimeScale } from '../../play/time-scale';
import { barOf, PLANT_ROW } from './plant-rows';
import { KEY_ROW, ROW, TOP, type StripContent, type StripLayout } from './strip-layout';

/** A strip that is being drawn. */
export interface StripDrawing {
  context: CanvasRenderingContext2D;
  /** A colour of the theme. */
  token: (name: string) => string;
  time: TimeScale;
  layout: StripLayout;
  content: StripContent;
  /** Frames of the clip. */
  frames: number;
  rate: number;
  /** The shown frame, the in and out point, and frames with which another shot begins. */
  frame: number;
  range: readonly [from: number, until: number];
  cuts: readonly number[];
}

export function drawStrip(drawing: StripDrawing): void {
  const { context, time, layout } = drawing;
  context.clearRect(0, 0, time.width.value, layout.height);
  context.font = '11px "Source Sans 3 Variable", sans-serif';
  drawSeconds(drawing);
  drawSeen(drawing);
  drawFaces(drawing);
  drawPlants(drawing);
  drawPasses(drawing);
  drawLayers(drawing);
  drawPoses(drawing);
  drawSnags(drawing);
  drawCuts(drawing);
  drawRange(drawing);
  drawHead(drawing);
}

function drawSeconds({ context, token, time, frames, rate }: StripDrawing): void {
  const [from, until] = time.span.value;
  const perSecond = (time.width.value / (until - from)) * rate;
  const every = [1 / rate, 5 / rate, 0.5, 1, 2, 5, 10, 30, 60, 300].find((value) => value * perSecond > 52) ?? 600;
  context.fillStyle = token('--ink-faint');
  context.textAlign = 'left';
  for (let s = Math.floor(from / rate / every) * every; s * rate < Math.min(until, frames); s += every) {
    const x = time.xOf(s * rate);
    context.fillRect(x, 0, 1, 5);
    // Near by frames are told, from afar seconds.
    context.fillText(every < 0.5 ? String(Math.round(s * rate)) : `${Number(s.toFixed(1))} s`, x + 4, 11);
  }
}

function drawSeen({ context, token, time, layout, content: { observations, firstObserved } }: StripDrawing): void {
  const width = time.width.value;
  const [from, until] = time.span.value.map((frame) => Math.floor(frame - firstObserved));
  const step = Math.max(1, Math.floor((until - from) / width));
  layout.seen.forEach((row, r) => {
    const y = TOP + r * ROW;
    context.fillStyle = token('--sheet-deep');
    context.fillRect(0, y, width, ROW - 2);
    if (!observations) return;
    const tone = token(`--${row.side}`);
    for (let f = Math.max(0, from); f < Math.min(observations.frames, until + 1); f += step) {
      let least = 2;
      for (let k = f; k < Math.min(observations.frames, f + step); k++)
        least = Math.min(least, row.confidence(observations, k));
      const x = time.xOf(f + firstObserved);
      const w = Math.max(1, time.xOf(f + step + firstObserved) - x) + 0.3;
      context.globalAlpha = 1;
      context.fillStyle = least < 0 ? token('--berry') : token('--sheet');
      context.fillRect(x, y, w, ROW - 2);
      if (least < 0) continue;
      // What is unsure is dark.
      context.globalAlpha = Math.min(1, Math.max(0, (0.97 - least) * 1.25));
      context.fillStyle = tone;
      context.fillRect(x, y, w, ROW - 2);
    }
    context.globalAlpha = 1;
  });
}

/** When groups of the face do something: the stronger, the darker. */
function drawFaces({ context, token, time, layout, content: { firstObserved } }: StripDrawing): void {
  const width = time.width.value;
  const [from, until] = time.span.value.map((frame) => Math.floor(frame - firstObserved));
  const step = Math.max(1, Math.floor((until - from) / width));
  for (const { row, top } of layout.faces) {
    context.fillStyle = token('--sheet');
    context.fillRect(0, top, width, ROW - 2);
    context.fillStyle = token('--middle');
    for (let f = Math.max(0, from); f < Math.min(row.strengths.length, until + 1); f += step) {
      const x = time.xOf(f + firstObserved);
      context.globalAlpha = Math.min(1, Math.max(0, ...row.strengths.subarray(f, f + step)));
      context.fillRect(x, top, Math.max(1, time.xOf(f + step + firstObserved) - x) + 0.3, ROW - 2);
    }
    context.globalAlpha = 1;
  }
}

function drawPlants({
  context,
  token,
  time,
  layout,
  content: { plants, selected, firstObserved },
}: StripDrawing): void {
  const x = (frame: number): number => time.xOf(frame + firstObserved);
  for (const { row, top } of layout.plants) {
    context.fillStyle = token('--sheet-deep');
    context.fillRect(0, top, time.width.value, PLANT_ROW - 2);
    for (const plant of plants) {
      if (!row.parts.includes(plant.part)) continue;
      const { y, tall } = barOf(plant, row, top);
      const [start, wide] = [x(plant.from), Math.max(2, x(plant.until) - x(plant.from))];
      const chosen = selected === plant.id;
      context.fillStyle = token(`--${row.side}`);
      context.globalAlpha = chosen ? 1 : 0.62;
      context.fillRect(start, y, wide, tall);
      context.globalAlpha = 0.25;
      const ease = x(plant.ease) - x(0);
      context.fillRect(start - ease, y, ease, tall);
      context.fillRect(start + wide, y, ease, tall);
      context.globalAlpha = 1;
      if (!chosen) continue;
      context.strokeStyle = token('--ink');
      context.lineWidth = 1.5;
      context.strokeRect(start, y - 0.5, wide, tall + 1);
    }
  }
}

function drawPasses({ context, token, time, layout: { passes }, content: { firstObserved } }: StripDrawing): void {
  if (!passes) return;
  context.fillStyle = token('--sheet-deep');
  context.fillRect(0, passes.top, time.width.value, ROW - 2);
  context.fillStyle = token('--amber-glow');
  for (const record of passes.list) {
    const span = kindOf(record).span(record);
    if (!span) continue;
    const [from, until] = span.map((frame) => time.xOf(frame + firstObserved));
    context.globalAlpha = record.muted ? 0.25 : 0.8;
    context.fillRect(from, passes.top + 1, Math.max(2, until - from), ROW - 4);
  }
  context.globalAlpha = 1;
}

/** Spans of all layers, and the keys of the one that is keyed as pins in a slip of paper. */
function drawLayers({
  context,
  token,
  time,
  layout: { layers: top },
  content: { records, keyed, firstObserved },
}: StripDrawing): void {
  if (top === null || !keyed) return;
  context.fillStyle = token('--sheet-deep');
  context.fillRect(0, top, time.width.value, KEY_ROW - 2);
  for (const record of recordsOf(records, 'layer')) {
    const span = kindOf(record).span(record);
    if (!span) continue;
    const [from, until] = span.map((frame) => time.xOf(frame + firstObserved));
    context.fillStyle = token(record.id === keyed.id ? '--amber-wash' : '--edge');
    context.globalAlpha = record.muted ? 0.35 : 1;
    context.fillRect(from, top + 1, Math.max(2, until - from), KEY_ROW - 4);
  }
  context.fillStyle = token('--amber');
  context.globalAlpha = keyed.muted ? 0.4 : 1;
  for (const { frame } of keyed.keys) {
    const x = time.xOf(frame + firstObserved + 0.5);
    context.fillRect(x - 1, top + 1, 2, KEY_ROW - 4);
    context.beginPath();
    context.arc(x, top + (KEY_ROW - 2) / 2, 3.5, 0, 2 * Math.PI);
    context.fill();
  }
  context.globalAlpha = 1;
}

/** Key poses as lamps over a line: full ones for extremes, rings for breakdowns. */
function drawPoses({
  context,
  token,
  time,
  layout: { poses: top },
  content: { poses, firstObserved },
}: StripDrawing): void {
  if (top === null) return;
  context.fillStyle = token('--sheet-deep');
  context.fillRect(0, top, time.width.value, KEY_ROW - 2);
  context.fillStyle = token('--ink-soft');
  context.strokeStyle = token('--ink-soft');
  context.lineWidth = 1.5;
  context.fillRect(0, top + KEY_ROW - 4, time.width.value, 1);
  for (const { frame, as } of poses) {
    const x = time.xOf(frame + firstObserved + 0.5);
    context.beginPath();
    context.arc(x, top + KEY_ROW - 4, as === 'extreme' ? 5 : 4, Math.PI, 2 * Math.PI);
    if (as === 'extreme') context.fill();
    else context.stroke();
  }
}

function drawSnags({
  context,
  token,
  time,
  layout: { snags: y },
  content: { snags, firstObserved },
}: StripDrawing): void {
  if (y === null) return;
  context.fillStyle = token('--sheet-deep');
  context.fillRect(0, y, time.width.value, ROW - 2);
  context.fillStyle = token('--berry');
  for (const { from, until } of snags) {
    const x = time.xOf(from + firstObserved);
    context.globalAlpha = 0.4;
    context.fillRect(x, y + 2, Math.max(2, time.xOf(until + firstObserved) - x), ROW - 6);
    context.globalAlpha = 1;
    context.beginPath();
    context.moveTo(x, y);
    context.lineTo(x + 4, y + (ROW - 2) / 2);
    context.lineTo(x, y + ROW - 2);
    context.lineTo(x - 4, y + (ROW - 2) / 2);
    context.fill();
  }
}

function drawCuts({ context, token, time, layout, cuts }: StripDrawing): void {
  context.strokeStyle = token('--ink');
  context.fillStyle = token('--ink');
  context.lineWidth = 1;
  context.setLineDash([3, 3]);
  for (const cut of cuts) {
    const x = Math.round(time.xOf(cut)) + 0.5;
    context.beginPath();
    context.moveTo(x, TOP - 4);
    context.lineTo(x, layout.height);
    context.stroke();
    context.fillText('cut', x + 3, TOP - 4);
  }
  context.setLineDash([]);
}

function drawRange({ context, token, time, layout, range: [from, until] }: StripDrawing): void {
  const width = time.width.value;
  context.fillStyle = token('--paper');
  context.globalAlpha = 0.72;
  context.fillRect(0, TOP, time.xOf(from), layout.height);
  context.fillRect(time.xOf(until), TOP, width, layout.height);
  context.globalAlpha = 1;
  context.fillStyle = token('--ink');
  for (const [frame, way] of [
    [from, 1],
    [until, -1],
  ] as const) {
    const place = time.xOf(frame);
    if (place < -1 || place > width + 1) continue;
    const x = Math.min(width - 1, Math.max(1, place));
    context.fillRect(x - 1, TOP - 4, 2, layout.height);
    context.beginPath();
    context.moveTo(x, TOP - 4);
    context.lineTo(x + way * 8, TOP - 4);
    context.lineTo(x, TOP + 6);
    context.fill();
  }
}

function drawHead({ context, token, time, layout, frame }: StripDrawing): void {
  const x = time.xOf(frame + 0.5);
  context.fillStyle = token('--amber');
  context.fillRect(x - 1, 0, 2, layout.height);
  context.beginPath();
  context.arc(x, 5, 5, 0, 2 * Math.PI);
  context.fill();
}
